import { imageInfo, manifestOf, pictureRequest, regionOf, sizeOf } from './iiif';

const PICTURE = { width: 300, height: 200 };

// The examples of the specification (Image API 3.0, 4.1): a picture of 300 by 200 pixels.
test.each([
  ['full', [0, 0, 300, 200]],
  ['square', [50, 0, 200, 200]],
  ['125,15,120,140', [125, 15, 120, 140]],
  ['pct:41.6,7.5,40,70', [125, 15, 120, 140]],
  ['125,15,200,200', [125, 15, 175, 185]],
  ['pct:41.6,7.5,66.6,100', [125, 15, 175, 185]],
])('the region %s is that of the specification', (text, [left, top, width, height]) => {
  expect(regionOf(text, PICTURE)).toEqual({ left, top, width, height });
});

test.each(['300,0,10,10', '0,200,10,10', '0,0,0,10', '1.5,0,10,10', '-1,0,10,10', '0,0,10', 'half', ''])(
  'the region %s is none',
  (text) => expect(regionOf(text, PICTURE)).toBeUndefined(),
);

// 4.2, those that do not ask for more than there is.
test.each([
  ['max', [300, 200]],
  ['150,', [150, 100]],
  [',150', [225, 150]],
  ['pct:50', [150, 100]],
  ['225,100', [225, 100]],
  ['!225,100', [150, 100]],
])('the size %s is that of the specification', (text, [width, height]) => {
  expect(sizeOf(text, PICTURE)).toEqual({ width, height });
});

test.each(['360,', ',240', 'pct:120', '^360,', '^max', '!360,', '0,', ',', 'pct:0', '360,360', '1e2,', 'full'])(
  'the size %s is not to be had',
  (text) => expect(sizeOf(text, PICTURE)).toBeUndefined(),
);

test('an address of a picture is read as a whole', () => {
  const asked = { region: 'square', size: '100,', rotation: '90', file: 'gray.jpg' };
  expect(pictureRequest(asked, PICTURE)).toEqual({
    region: { left: 50, top: 0, width: 200, height: 200 },
    size: { width: 100, height: 100 },
    rotation: 90,
    grey: true,
  });
  for (const wrong of [
    { ...asked, rotation: '45' },
    { ...asked, rotation: '!0' },
    { ...asked, file: 'default.png' },
    { ...asked, file: 'toString.jpg' },
    { ...asked, file: 'default' },
    { ...asked, size: '400,' },
  ])
    expect(pictureRequest(wrong, PICTURE)).toBeUndefined();
});

test('what is told of a picture has all that the specification asks for at level 1', () => {
  expect(imageInfo('https://archive.example/v/x/iiif/k', PICTURE)).toMatchObject({
    '@context': 'http://iiif.io/api/image/3/context.json',
    id: 'https://archive.example/v/x/iiif/k',
    type: 'ImageService3',
    protocol: 'http://iiif.io/api/image',
    profile: 'level1',
    width: 300,
    height: 200,
  });
});

test('a manifest has a canvas for each picture, painted with it, as in the first recipe of the cookbook', () => {
  const manifest = manifestOf(
    { id: 'https://a.example/v/x/manifest.json', page: 'https://a.example/v/x', title: 'Kites', words: '' },
    [
      {
        service: 'https://a.example/v/x/iiif/k',
        caption: 'Dunes',
        lines: [{ label: 'Creator', text: 'Ida' }],
        ...PICTURE,
      },
    ],
  );
  expect(manifest).toEqual({
    '@context': 'http://iiif.io/api/presentation/3/context.json',
    id: 'https://a.example/v/x/manifest.json',
    type: 'Manifest',
    label: { none: ['Kites'] },
    homepage: [{ id: 'https://a.example/v/x', type: 'Text', label: { none: ['Kites'] }, format: 'text/html' }],
    items: [
      {
        id: 'https://a.example/v/x/manifest.json/canvas/1',
        type: 'Canvas',
        height: 200,
        width: 300,
        label: { none: ['Dunes'] },
        metadata: [{ label: { none: ['Creator'] }, value: { none: ['Ida'] } }],
        items: [
          {
            id: 'https://a.example/v/x/manifest.json/canvas/1/page',
            type: 'AnnotationPage',
            items: [
              {
                id: 'https://a.example/v/x/manifest.json/canvas/1/annotation',
                type: 'Annotation',
                motivation: 'painting',
                body: {
                  id: 'https://a.example/v/x/iiif/k/full/max/0/default.jpg',
                  type: 'Image',
                  format: 'image/jpeg',
                  service: [{ id: 'https://a.example/v/x/iiif/k', type: 'ImageService3', profile: 'level1' }],
                },
                target: 'https://a.example/v/x/manifest.json/canvas/1',
              },
            ],
          },
        ],
      },
    ],
  });
});
