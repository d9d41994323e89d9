import { PDFDocument } from '@cantoo/pdf-lib';
import request from 'supertest';
import { path, ROUTES, type DrawingInfo, type Received } from '@folvex/contract';
import { useServer } from '../support/harness';

const server = useServer();

async function commented(more: Record<string, unknown> = {}): Promise<Buffer> {
  const document = await PDFDocument.create();
  const page = document.addPage([200, 100]);
  const { context } = document;
  const drawn = context.register(context.stream('10 10 80 30 re f', { Subtype: 'Form', BBox: [0, 0, 100, 50] }));
  const note = { Type: 'Annot', Subtype: 'Square', Rect: [20, 20, 120, 70], F: 4, AP: { N: drawn }, ...more };
  page.node.addAnnot(context.register(context.obj(note)));
  return Buffer.from(await document.save());
}

describe('The comments in a PDF', () => {
  it('are merged into its pages as a newer version, and then nothing is left out', async () => {
    const { body } = await request(server.app)
      .post(path(ROUTES.drawings, { project: server.project }))
      .attach('file', await commented(), 'marked-up.pdf');
    const { drawing } = body as Extract<Received, { outcome: 'added' }>;
    expect(drawing.warnings.map(({ code }) => code)).toEqual(['pdf.annotations']);
    const merged = await request(server.app).post(path(ROUTES.commentsMerged, { drawing: drawing.id }));
    expect(merged.status).toBe(200);
    const { id, version, warnings, earlier, hash } = merged.body as DrawingInfo;
    expect([id, version, warnings]).toEqual([drawing.id, 2, []]);
    expect(earlier.map((one) => one.hash)).toEqual([drawing.hash]);
    expect(hash).not.toBe(drawing.hash);
  });

  it('leave a drawing as it is where the file does not say what they look like', async () => {
    const { body } = await request(server.app)
      .post(path(ROUTES.drawings, { project: server.project }))
      .attach('file', await commented({ AP: null }), 'undrawn.pdf');
    const { drawing } = body as Extract<Received, { outcome: 'added' }>;
    expect(drawing.warnings.map(({ code }) => code)).toEqual(['pdf.undrawn']);
    const { body: after } = await request(server.app).post(path(ROUTES.commentsMerged, { drawing: drawing.id }));
    expect(after).toEqual(drawing);
  });

  it('of a drawing that is not there are not', async () => {
    expect((await request(server.app).post(path(ROUTES.commentsMerged, { drawing: 'none' }))).status).toBe(404);
  });
});
