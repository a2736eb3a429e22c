import sharp from 'sharp';
import { memorySource } from './bytes';
import { missingProperties } from './containment';
import { openFile } from './open';
import { written } from './testing';
import type { FieldChanges } from './write';

const plain = sharp({ create: { width: 16, height: 12, channels: 3, background: 'teal' } })
  .jpeg()
  .withExif({ IFD0: { Make: 'Corvina', Copyright: 'Saltmarsh' } })
  .toBuffer();
const described = async (changes: FieldChanges) => openFile(memorySource(await written(await plain, changes)));
const bare = async () => openFile(memorySource(await plain));
const sidecar = (property: string) =>
  new TextEncoder().encode(
    `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description xmlns:kite="http://kites.example/ns/" ${property}/></rdf:RDF></x:xmpmeta>`,
  );

test('a file says all of what it says itself, and of what one with less says', async () => {
  const file = await described({ description: 'Dunes', keywords: ['delta', 'Wüste'], creator: ['Ida Brandt'] });
  expect(missingProperties({ file }, { file })).toEqual([]);
  expect(missingProperties({ file: await bare() }, { file: await described({ title: 'Dunes' }) })).toEqual([]);
});

test('what the other lacks or says otherwise is named, in XMP, IIM and EXIF', async () => {
  const file = await described({ description: 'Dunes', keywords: ['delta'], creator: ['Ida Brandt'] });
  const missing = missingProperties({ file }, { file: await described({ description: 'Sea', keywords: ['delta'] }) });
  expect(missing).toEqual(
    expect.arrayContaining(['dc:description', 'dc:creator', 'IIM 2:80', 'IIM 2:120', 'EXIF Artist']),
  );
  expect(missing).not.toContain('dc:subject');
  expect(
    missingProperties(
      { file: await bare() },
      {
        file: openFile(
          memorySource(
            await sharp(await plain)
              .jpeg()
              .toBuffer(),
          ),
        ),
      },
    ),
  ).toContain('EXIF Make');
});

test('properties that nobody knows count too, wherever they stand', async () => {
  const file = await bare();
  const own = { file, sidecar: sidecar('kite:line="12 m"') };
  expect(missingProperties(own, { file })).toEqual(['kite:line']);
  expect(missingProperties(own, { file, sidecar: sidecar('kite:line="13 m"') })).toEqual(['kite:line']);
  expect(missingProperties(own, { file, sidecar: sidecar('kite:line="12 m" kite:tail="red"') })).toEqual([]);
});

test('what can’t be read counts as lacking', async () => {
  const file = await bare();
  expect(missingProperties({ file, sidecar: new TextEncoder().encode('<broken') }, { file })).not.toEqual([]);
});
