import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import PDFDocument from 'pdfkit';
import sharp from 'sharp';
import { ZipFile } from 'yazl';
import { makeLarge } from './preview';
import { readRecord } from './readRecord';

const folder = mkdtempSync(join(tmpdir(), 'stellin-pages-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);

const plain = (background: string) =>
  sharp({ create: { width: 60, height: 40, channels: 3, background } })
    .png()
    .toBuffer();

/** A document of a red and a blue page with words on them. */
async function programme(): Promise<Buffer> {
  const document = new PDFDocument({
    size: 'A5',
    info: { Title: 'Festival June', Author: 'Saltmarsh Kite Museum', CreationDate: new Date('2014-06-01T10:00:00Z') },
  });
  const parts: Buffer[] = [];
  document.on('data', (part: Buffer) => parts.push(part));
  const ended = new Promise((resolve) => document.on('end', resolve));
  const fill = (colour: string, words: string) =>
    document.rect(0, 0, 600, 800).fill(colour).fillColor('white').fontSize(30).text(words, 40, 60);
  fill('red', 'Rokkaku battle');
  document.addPage();
  fill('blue', 'Night of lights');
  document.end();
  await ended;
  return Buffer.concat(parts);
}

/** Whether a picture is red or blue in its middle. */
async function colourOf(path: string): Promise<string> {
  const { data, info } = await sharp(path).raw().toBuffer({ resolveWithObject: true });
  const middle = (Math.floor(info.height * 0.75) * info.width + Math.floor(info.width / 2)) * info.channels;
  return (data[middle] ?? 0) > (data[middle + 2] ?? 0) ? 'red' : 'blue';
}

const read = (name: string) => {
  const result = readRecord({ path: at(name), sidecarPath: undefined });
  if (!result.ok) throw new Error(result.message);
  return result.metadata;
};

test('a document is read with its pages and words, and each page is a picture', async () => {
  writeFileSync(at('programme.pdf'), await programme());
  const { kind, facts, fields, width, height, damaged, issues } = read('programme.pdf');
  expect({ kind, damaged, issues }).toEqual({ kind: 'pdf', damaged: false, issues: [] });
  expect(facts).toMatchObject({ pages: 2, text: 'Rokkaku battle Night of lights', takenAt: '2014-06-01T10:00:00' });
  expect(fields).toMatchObject({ title: 'Festival June', creator: ['Saltmarsh Kite Museum'] });
  expect([width, height]).toEqual([839, 1191]);
  for (const [page, colour] of [
    [1, 'red'],
    [2, 'blue'],
  ] as const) {
    await makeLarge(at('programme.pdf'), 'pdf', 500, at('page.webp'), { page });
    expect(await colourOf(at('page.webp'))).toBe(colour);
  }
});

test.each(['gif', 'tiff'] as const)('%s of several pictures is looked at picture by picture', async (kind) => {
  const both = sharp([await plain('red'), await plain('blue')], { join: { animated: true } });
  writeFileSync(at(`two.${kind}`), await both.toFormat(kind).toBuffer());
  expect(read(`two.${kind}`)).toMatchObject({ kind, facts: { pages: 2 }, damaged: false });
  await makeLarge(at(`two.${kind}`), kind, 500, at('page.webp'), { page: 2 });
  expect(await colourOf(at('page.webp'))).toBe('blue');
  await expect(makeLarge(at(`two.${kind}`), kind, 500, at('none.webp'), { page: 3 })).rejects.toThrow();
  writeFileSync(
    at(`one.${kind}`),
    await sharp(await plain('red'))
      .toFormat(kind)
      .toBuffer(),
  );
  expect(read(`one.${kind}`).facts.pages).toBeUndefined();
});

test('documents that are cut off or hold rubbish are said to be broken, or read as far as they go', async () => {
  const whole = await programme();
  for (const keep of [whole.length / 2, 200, 8]) {
    writeFileSync(at('cut.pdf'), whole.subarray(0, keep));
    expect(read('cut.pdf').issues.join()).toMatch(/^$|could not be read/);
  }
  const noise = Buffer.from(whole);
  for (let i = 20; i < noise.length; i += 7) noise[i] = (noise[i] ?? 0) ^ 0x55;
  writeFileSync(at('noise.pdf'), noise);
  expect(read('noise.pdf').damaged).toBe(true);
});

/** A ZIP file of named parts. */
async function zipOf(parts: Readonly<Record<string, Buffer>>): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [name, bytes] of Object.entries(parts)) zip.addBuffer(bytes, name);
  zip.end();
  const chunks: Buffer[] = [];
  for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

test('an office document shows the picture of its first page that it holds; one without says so', async () => {
  const mimetype = Buffer.from('application/vnd.oasis.opendocument.text');
  const content = Buffer.from('<office:document xmlns:office="o"><p>Loan of six kites</p></office:document>');
  const shown = { mimetype, 'content.xml': content, 'Thumbnails/thumbnail.png': await plain('red') };
  writeFileSync(at('letter.odt'), await zipOf(shown));
  expect(read('letter.odt')).toMatchObject({
    kind: 'odf',
    damaged: false,
    width: 60,
    height: 40,
    facts: { text: 'Loan of six kites' },
  });
  await makeLarge(at('letter.odt'), 'odf', 500, at('letter.webp'));
  expect(await colourOf(at('letter.webp'))).toBe('red');
  writeFileSync(at('bare.odt'), await zipOf({ mimetype, 'content.xml': content }));
  await expect(makeLarge(at('bare.odt'), 'odf', 500, at('none.webp'))).rejects.toThrow('holds no picture');
  const rubbish = { ...shown, 'Thumbnails/thumbnail.png': Buffer.from('no picture') };
  writeFileSync(at('rubbish.odt'), await zipOf(rubbish));
  await expect(makeLarge(at('rubbish.odt'), 'odf', 500, at('none.webp'))).rejects.toThrow();
});
