import { PDFDocument, PDFName } from '@cantoo/pdf-lib';
import { embedPage } from '../../src/foreign';

/** A page whose content is two streams of 10,000 bytes, which deflate to almost nothing. */
async function bomb(): Promise<PDFDocument> {
  const document = await PDFDocument.create();
  const page = document.addPage();
  const streams = [' ', '\n'].map((blank) =>
    document.context.register(document.context.flateStream(blank.repeat(10_000))),
  );
  page.node.set(PDFName.of('Contents'), document.context.obj(streams));
  return PDFDocument.load(await document.save());
}

const plain = (bytes: Uint8Array): Uint8Array => bytes;

it('a page is taken as long as its content inflates to no more than it may', async () => {
  const { objects } = embedPage(await bomb(), 1, 'plan.pdf', 'k', plain, 20_000);
  // Each stream ends with a line feed.
  expect((objects[0] as { stream: Uint8Array }).stream).toHaveLength(20_002);
});

it('one that inflates to more is refused with a sentence, whichever of its streams it is', async () => {
  const document = await bomb();
  for (const most of [19_999, 9_999])
    expect(() => embedPage(document, 1, 'plan.pdf', 'k', plain, most)).toThrow(
      `Page 1 of plan.pdf inflates to more than ${most / 1e6} MB; print it to a new PDF`,
    );
});
