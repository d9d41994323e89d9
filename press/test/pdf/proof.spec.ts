import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { packParts, STANDARD_RECIPE, writePart, type MeasuredArea } from '@folvex/core';
import { PDFDocument } from '@cantoo/pdf-lib';
import { deflate, lockFor, protectionOf, shippedFonts, type Lock } from '../../src/index';
import { proofOf } from '../../src/pdf/proof';
import { ownFolder } from '../support/published';
import { pageWith, sheet, written } from '../support/written';

const folder = ownFolder();
const MEASURED: MeasuredArea[] = [
  { name: 'Plan', box: [20, 20, 220, 120], scale: 1 / 50, words: '1:50', unit: 'm' },
  { name: 'Detail', box: [230, 20, 400, 120], scale: 1 / 48, words: '1/4"', unit: 'ft' },
];
const TEXTS = [
  ['Waiting room', 'see A-102', 'Größe ⌀ 40'],
  ['Αίθουσα', 'חדר המתנה'],
];

/** A file of two pages, and the parts that it was made from. */
async function made(name: string, lock?: Lock) {
  const sheets = TEXTS.map((texts, i) => ({
    sheet: sheet(`s${i}`, `A-10${i + 1}`),
    texts,
    ...(i === 0 && { measured: MEASURED }),
  }));
  const files = [{ path: `${name}.pdf`, sheets: ['s0', 's1'] }];
  const [path] = await written({ sheets, files, ...(lock && { protection: protectionOf(lock) }) });
  const parts = sheets.map(({ texts, measured = [] }, i) => {
    const part = join(folder, `${name}-${i}`);
    writeFileSync(part, packParts([writePart(pageWith(texts), shippedFonts(), true, deflate, { measured })]));
    return part;
  });
  return { path: path!, parts, recipe: STANDARD_RECIPE, lock };
}

describe('reading a finished file again', () => {
  it('finds pages, sizes, texts, fonts, layers, links and scales as they went in', async () => {
    const proof = await proofOf(await made('good'));
    expect(proof).toMatchObject({ pages: 2, links: 1, layers: 1, measured: 2, sound: true, differences: [] });
    expect(proof.characters).toBe(TEXTS.flat().join('').replace(/\s/g, '').length);
    expect(proof.fonts).toBeGreaterThan(0);
  });

  it('tells of a stream that does not unpack to its end, by qpdf', async () => {
    const task = await made('flipped');
    const bytes = readFileSync(task.path);
    const stream = bytes.indexOf('stream\n') + 20;
    bytes[stream] = bytes[stream]! ^ 0xff;
    writeFileSync(task.path, bytes);
    const { sound, differences } = await proofOf(task);
    expect(sound).toBeUndefined();
    expect(differences.join('\n')).toMatch(/qpdf finds a fault in it: .*the file/);
  });

  it('leaves files alone that are too large to be held in memory, but for their structure', async () => {
    const task = await made('large');
    const proof = await proofOf(task, 1000);
    expect(proof).toMatchObject({
      pages: 0,
      sound: true,
      differences: [],
      unread: expect.stringContaining('larger than'),
    });
  });

  it('tells of pages that are missing or of another size', async () => {
    const task = await made('cut');
    const document = await PDFDocument.load(readFileSync(task.path));
    document.getPage(0).setMediaBox(0, 0, 500, 700);
    document.removePage(1);
    writeFileSync(task.path, await document.save());
    const { differences } = await proofOf(task);
    expect(differences).toEqual([
      'It has 1 pages, not 2.',
      expect.stringMatching(/^Page 1 measures 176\.39 × 246\.94 mm, not 420\.00 × 297\.00\.$/),
    ]);
  });

  it('tells of texts that are not those that went in, and of views that measure wrong', async () => {
    const [task, other] = [await made('one'), await made('two')];
    expect((await proofOf({ ...task, parts: [...other.parts].reverse() })).differences).toEqual(
      expect.arrayContaining([
        expect.stringContaining('characters of text, not'),
        'View 1 on page 2 does not have its true scale.',
      ]),
    );
  });

  it('opens a protected one by its key, and finds in it what went in', async () => {
    const allowed = { print: true, change: false, copy: false };
    const lock = lockFor({ open: 'Möwe 7', change: 'owner' }, allowed);
    const task = await made('protected', lock);
    expect(await proofOf(task)).toEqual(await proofOf(await made('unprotected')));
    const other = lockFor({ open: 'Möwe 7', change: 'owner' }, allowed);
    expect((await proofOf({ ...task, lock: other })).differences).toEqual([
      expect.stringMatching(/^It cannot be opened by its key: WARNING: the file .*\.$/),
    ]);
  });

  it('tells of a file that is no PDF any more', async () => {
    const task = await made('broken');
    writeFileSync(task.path, readFileSync(task.path).subarray(0, 60));
    expect((await proofOf(task)).differences.length).toBeGreaterThan(0);
  });
});

it('counts no characters outside the paper, as pdf.js leaves them out', async () => {
  const page = pageWith(['Waiting room']);
  const beside = { ...page, texts: page.texts.map((text) => ({ ...text, x: -200 })) };
  const [path] = await written({
    sheets: [{ sheet: sheet('s', 'A-101'), page: beside }],
    files: [{ path: 'beside.pdf', sheets: ['s'] }],
  });
  const part = join(folder, 'beside');
  const made = writePart(beside, shippedFonts(), true, deflate);
  writeFileSync(part, packParts([made]));
  const [least, most] = made.characters;
  expect(least).toBeLessThan('Waitingroom'.length);
  const proof = await proofOf({ path: path!, parts: [part], recipe: STANDARD_RECIPE });
  expect(proof.differences).toEqual([]);
  expect(proof.characters).toBeGreaterThanOrEqual(least);
  expect(proof.characters).toBeLessThanOrEqual(most);
});
