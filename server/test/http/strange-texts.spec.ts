import request from 'supertest';
import { path, ROUTES, type ProjectInfo, type Received } from '@folvex/contract';
import { reportCsv, type RunReport } from '../../src/work/runs/run-report';
import { useServer } from '../support/harness';

const server = useServer();
const project = async (): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;

describe('texts that cannot be stored', () => {
  const refused = 'contains a character that cannot be stored; remove it and send it again.';

  it.each([
    ['NUL', 'Plan \u0000'],
    ['a lone surrogate', 'Plan \ud83d'],
  ])('are refused with the name of their field: %s', async (_, title) => {
    const [sheet] = (await project()).sheets;
    const address = path(ROUTES.sheet, { project: server.project, sheet: sheet!.id });
    const { status, body } = await request(server.app).patch(address).send({ title });
    expect([status, body.problem.sentence]).toEqual([400, `title ${refused}`]);
    const inside = await request(server.app)
      .patch(path(ROUTES.project, { project: server.project }))
      .send({ project: { fields: { Client: title } } });
    expect(inside.status).toBe(400);
    expect(inside.body.problem.sentence).toContain(refused);
  });

  it('are not found as parts of addresses', async () => {
    for (const address of ['/api/projects/%00', `/api/projects/${server.project}/sheets/%00/page`]) {
      expect((await request(server.app).get(address)).status).toBe(404);
    }
  });

  it('come in with drawings, and are shown with a sign in their place', async () => {
    const layer = (name: string): string => `0\nLINE\n8\n${name}\n10\n0\n20\n0\n11\n100\n21\n50\n`;
    // \U+D83D is a lone surrogate, as an escape of DXF.
    const dxf = `0\nSECTION\n2\nENTITIES\n${layer('A\\U+D83D')}${layer('B\u0000')}0\nENDSEC\n0\nEOF\n`;
    const { status, body } = await request(server.app)
      .post(path(ROUTES.drawings, { project: server.project }))
      .attach('file', Buffer.from(dxf), 'Halves.dxf');
    expect(status).toBe(201);
    const { drawing } = body as Extract<Received, { outcome: 'added' }>;
    const found = (await project()).drawings.find(({ id }) => id === drawing.id)!;
    expect(found.layers.map(({ name }) => name).filter((name) => name !== '0')).toEqual([
      expect.stringMatching(/^A(\ufffd|\\U\+D83D)$/),
      'B\ufffd',
    ]);
  });
});

it.each(['/api/runs/%00', '/api/drawings/%00/spaces/0', '/api/pictures/%00/0', '/api/projects/%00'])(
  'the address %s, which no text of the database can be, is not found',
  async (address) => {
    expect((await request(server.app).get(address)).status).toBe(404);
  },
);

it('what a spreadsheet would take for a formula is text in the report of a run', () => {
  const file = { path: '=HYPERLINK("http://x").pdf', format: 'PDF', pages: 1, bytes: 1, sha256: '', outcome: '+1' };
  const sent = { destination: '@SUM(1)', state: 'done', path: '=1', outcome: '-1', bytes: 1, hash: null, at: null };
  const report = { files: [file], sheets: [], deliveries: [sent] } as unknown as RunReport;
  const [, row, , , delivery] = reportCsv(report).split('\r\n');
  expect(row).toMatch(/^"'=HYPERLINK/);
  expect(row).toMatch(/,"'\+1",?/);
  expect(delivery).toBe(`"'@SUM(1)",done,"'=1","'-1",1,,`);
});
