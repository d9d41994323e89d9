import { deflateSync } from 'node:zlib';
import { PDFDocument, PDFName } from '@cantoo/pdf-lib';
import { openPdf } from '../../src/read/pdf/open';
import { objectsInflateBeyond } from '../../src/read/pdf/object-streams';

const MB = 1e6;

/** A PDF with so many objects of 100 bytes in streams (ISO 32000-2, 7.5.7), as another library writes it. */
async function packed(objects: number): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  document.addPage([100, 100]);
  for (let i = 0; i < objects; i++) document.context.register(PDFName.of('x'.repeat(99)));
  return document.save({ useObjectStreams: true });
}

/** The same with one more stream of objects, of so many spaces, deflated so many times over. */
function withBomb(pdf: Uint8Array, bytes: number, times: number): Uint8Array {
  let content: Buffer = Buffer.alloc(bytes, ' ');
  for (let i = 0; i < times; i++) content = deflateSync(content);
  const filters = Array(times).fill('/FlateDecode').join(' ');
  const head = `9000 0 obj\n<< /Type /ObjStm /N 0 /First 0 /Filter [ ${filters} ] /Length ${content.length} >>\nstream\n`;
  const text = Buffer.from(pdf).toString('latin1');
  const at = text.indexOf('1 0 obj') >= 0 ? text.indexOf('1 0 obj') : text.indexOf('\n', 15) + 1;
  return Buffer.concat([
    Buffer.from(text.slice(0, at), 'latin1'),
    ...[Buffer.from(head, 'latin1'), content, Buffer.from('\nendstream\nendobj\n')],
    Buffer.from(text.slice(at), 'latin1'),
  ]);
}

describe('the streams in which a PDF keeps its objects', () => {
  it('are counted together, with all their filters', async () => {
    const pdf = await packed(200);
    expect(objectsInflateBeyond(pdf, 200 * 100)).toBe(true);
    // With the numbers and offsets of the objects, and the index of the file.
    expect(objectsInflateBeyond(pdf, 200 * 130)).toBe(false);
    for (const times of [1, 2]) {
      const bomb = withBomb(pdf, 5 * MB, times);
      expect(bomb.length).toBeLessThan(0.1 * MB);
      expect(objectsInflateBeyond(bomb, 4 * MB)).toBe(true);
      expect(objectsInflateBeyond(bomb, 6 * MB)).toBe(false);
    }
  });

  it('are refused with a sentence where they inflate to too much', async () => {
    const pdf = await packed(3);
    expect(await openPdf(withBomb(pdf, 5 * MB, 1), 'plan.pdf', undefined, 4 * MB)).toMatchObject({
      ok: false,
      problem: { code: 'pdf.inflates', sentence: expect.stringContaining('plan.pdf inflate to more than 4 MB') },
    });
    const opened = await openPdf(pdf, 'plan.pdf');
    expect(opened.ok && opened.value.document.getPageCount()).toBe(1);
  });

  it.each([
    ['cut off', '1 0 obj << /Type /ObjStm /Filter /FlateDecode >> stream\n'],
    ['damaged', '1 0 obj << /Type /ObjStm /Filter /FlateDecode >> stream\nnot deflated endstream'],
    ['without a dictionary', '/ObjStm /XRef stream'],
    ['not deflated at all', `1 0 obj << /Type /ObjStm /N 0 >> stream\n${'x'.repeat(1000)} endstream`],
    ['of an unknown filter', '1 0 obj << /Type /XRef /Filter /Own >> stream\nabc endstream'],
  ])('do not count where they are %s', (_, text) => {
    expect(objectsInflateBeyond(Buffer.from(text), 0)).toBe(false);
  });
});
