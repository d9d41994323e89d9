import { PDFDocument, PDFName, PDFString, degrees, rgb, type PDFPage } from '@cantoo/pdf-lib';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { openPdf, readPdf, withComments } from '@folvex/core/foreign';
import { pdfPicture } from '../../src/formats/pdf-picture';
import { difference, drawingOf, ownFolder, publish, rastered, tool } from '../support/published';

const folder = ownFolder();
const path = (name: string): string => join(folder, name);

/** A mark with a picture of itself: a box with a diagonal, in units of its own that are turned and larger than its place. */
function comment(page: PDFPage, rectangle: readonly number[], more: Record<string, unknown> = {}): void {
  const { context } = page.doc;
  const drawn = context.stream('1 0 0 RG 6 w 10 20 m 210 120 l 10 20 200 100 re S', {
    ...{ Type: 'XObject', Subtype: 'Form', BBox: [0, 10, 220, 130], Matrix: [0, 1, -1, 0, 0, 0] },
  });
  const annotation = context.obj({
    ...{ Type: 'Annot', Subtype: 'Square', Rect: [...rectangle], F: 4, AP: { N: context.register(drawn) } },
    ...more,
  });
  page.node.addAnnot(context.register(annotation));
}

/** A form that was filled in, with comments on it; the page is turned. */
async function markedUp(): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const page = document.addPage([400, 300]);
  page.setRotation(degrees(90));
  page.drawRectangle({ x: 20, y: 20, width: 100, height: 60, color: rgb(0.8, 0.9, 1) });
  const form = document.getForm();
  const field = form.createTextField('revision');
  field.setText('Rev C');
  field.addToPage(page, { x: 150, y: 200, width: 120, height: 30, borderWidth: 2 });
  const box = form.createCheckBox('approved');
  box.addToPage(page, { x: 300, y: 200, width: 24, height: 24 });
  box.check();
  const unticked = form.createCheckBox('refused');
  unticked.addToPage(page, { x: 340, y: 200, width: 24, height: 24 });
  comment(page, [40, 100, 100, 190]);
  comment(page, [200, 60, 260, 100], { F: 2 });
  const { context } = document;
  const link = context.obj({ Type: 'Annot', Subtype: 'Link', Rect: [0, 0, 50, 50], Border: [0, 0, 0] });
  page.node.addAnnot(context.register(link));
  const bare = context.obj({
    Type: 'Annot',
    Subtype: 'Widget',
    FT: 'Tx',
    Rect: [0, 0, 9, 9],
    T: PDFString.of('x'),
    V: PDFString.of('y'),
  });
  page.node.addAnnot(context.register(bare));
  return document.save({ useObjectStreams: false });
}

/** The same without annotations of some kinds, for poppler to draw. */
async function without(bytes: Uint8Array, left: (subtype: string) => boolean): Promise<string> {
  const document = await PDFDocument.load(bytes);
  const list = document.getPage(0).node.Annots()!;
  for (let i = list.size() - 1; i >= 0; i--) {
    const note = document.context.lookup(list.get(i)) as unknown as { get(name: PDFName): { toString(): string } };
    if (left(note.get(PDFName.of('Subtype')).toString())) list.remove(i);
  }
  const file = path('reference.pdf');
  writeFileSync(file, await document.save());
  return file;
}

async function published(bytes: Uint8Array, name: string): Promise<string> {
  return publish(path(`published ${name}`), [{ drawing: await drawingOf(bytes, name), layout: 'Page 1' }]);
}

describe('A PDF that somebody filled in and commented on', () => {
  it('shows the values of its form, and says what it leaves out', async () => {
    const bytes = await markedUp();
    const read = await readPdf(bytes, 'form.pdf');
    expect(read.ok && read.warnings.map(({ code, sentence }) => [code, sentence])).toEqual([
      ['pdf.annotations', expect.stringContaining('Page 1 has a comment or mark of a PDF reader, which is not shown')],
      ['pdf.undrawn', expect.stringContaining('a form field whose appearance is not in the file')],
    ]);
    const again = await published(bytes, 'form.pdf');
    expect(tool('pdftotext', again, '-')).toContain('Rev C');
    const wanted = await without(bytes, (subtype) => subtype === '/Square');
    const { strong, inked } = await difference(rastered(wanted, 100), rastered(again, 100));
    expect(inked).toBeGreaterThan(0.01);
    expect(strong).toBeLessThan(0.0005);
  });

  it('has its comments in its pages once they are merged, but not what is hidden', async () => {
    const bytes = await markedUp();
    const opened = await openPdf(bytes, 'form.pdf');
    if (!opened.ok) throw new Error(opened.problem.sentence);
    const merged = (await withComments(opened.value.document))!;
    const read = await readPdf(merged, 'form.pdf');
    expect(read.ok && read.warnings.map(({ code }) => code)).toEqual(['pdf.undrawn']);
    const again = await published(merged, 'merged.pdf');
    const reference = path('whole.pdf');
    writeFileSync(reference, bytes);
    const { strong } = await difference(rastered(reference, 100), rastered(again, 100));
    expect(strong).toBeLessThan(0.0005);
    const bare = await without(bytes, (subtype) => subtype === '/Square');
    expect((await difference(rastered(bare, 100), rastered(again, 100))).strong).toBeGreaterThan(0.005);
  });

  it('is the same in pictures', async () => {
    const bytes = await markedUp();
    const drawing = await drawingOf(bytes, 'form.pdf');
    const source = drawing.pictures[0]!;
    if (source.kind !== 'pdf') throw new Error('no PDF');
    const picture = path('picture.png');
    writeFileSync(picture, await pdfPicture(source.bytes, 1, 417, 556));
    const wanted = await without(bytes, (subtype) => subtype === '/Square');
    expect((await difference(rastered(wanted, 100), picture)).strong).toBeLessThan(0.005);
  });
});
