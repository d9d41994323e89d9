import request from 'supertest';
import { path, ROUTES, type ProjectInfo, type Received } from '@folvex/contract';
import { sha256 } from '@folvex/press';
import { useServer } from '../support/harness';
import { browserOf, colleague, emptyProject, officeApp } from '../support/office';

const server = useServer();

const dxf = (x: number): string =>
  `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n` +
  `0\nLINE\n8\n0\n10\n0\n20\n0\n11\n${x}\n21\n5\n0\nENDSEC\n0\nEOF\n`;

/** A drafter of a project of their own, who knows hashes of files of the demo, where they have no role. */
describe('whoever knows the hash of a file of another project', () => {
  let demo: ProjectInfo;
  let own: string;
  let outsider: Awaited<ReturnType<typeof browserOf>>;

  beforeAll(async () => {
    demo = (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;
    own = await emptyProject(server, 'Own');
    outsider = await browserOf(officeApp(server), await colleague(server, 'Outsider', { roles: { [own]: 'drafter' } }));
  });

  const send = async (content: string): Promise<Received> =>
    (await outsider.post(path(ROUTES.drawings, { project: own })).attach('file', Buffer.from(content), 'plan.dxf'))
      .body as Received;
  const answer = (hash: string, drawing: string) =>
    outsider
      .post(path(ROUTES.offers, { project: own }))
      .send({ offered: { name: 'plan.dxf', hash, bytes: 1 }, as: 'version', drawing });

  it('cannot have it taken for a file that was sent, nor compare with it', async () => {
    const first = await send(dxf(100));
    if (first.outcome !== 'added') throw new Error(first.outcome);
    const { id, hash } = first.drawing;
    const foreign = demo.drawings[0]!.hash;
    const { status, body } = await answer(foreign, id);
    expect([status, body.problem.code]).toEqual([422, 'upload.gone']);
    await outsider.get(path(ROUTES.changes, { drawing: id, from: hash, to: foreign })).expect(404);
    await outsider.get(path(ROUTES.changesPicture, { drawing: id, from: foreign, to: hash })).expect(404);
    await outsider.get(path(ROUTES.picture, { content: foreign, index: 0 })).expect(404);
  });

  it('still decides about files that were really sent', async () => {
    const second = await send(dxf(200));
    if (second.outcome !== 'newer') throw new Error(second.outcome);
    expect(second.offered.hash).toBe(sha256(dxf(200)));
    const { id, hash } = second.drawing;
    await outsider.get(path(ROUTES.changes, { drawing: id, from: hash, to: second.offered.hash })).expect(200);
    await answer(second.offered.hash, id).expect(200);
  });

  it('cannot use it as a typeface, unless it is of a project that they may see', async () => {
    const [typeface] = demo.project.typefaces!;
    const take = (typefaces: unknown) =>
      outsider.patch(path(ROUTES.settings, { project: own })).send({ project: { typefaces } });
    const { status, body } = await take([typeface]);
    expect([status, body.problem.code]).toEqual([422, 'typeface.unknown']);
    expect(body.problem.sentence).toBe('The typeface Architects Daughter is not on the server; upload its file.');
    const insider = await colleague(server, 'Insider', { roles: { [own]: 'drafter', [server.project]: 'reader' } });
    await (
      await browserOf(officeApp(server), insider)
    )
      .patch(path(ROUTES.settings, { project: own }))
      .send({ project: { typefaces: [typeface] } })
      .expect(200);
    // What the project has now stays when other typefaces change.
    await take([{ ...typeface, asked: ['other'] }]).expect(200);
  });
});
