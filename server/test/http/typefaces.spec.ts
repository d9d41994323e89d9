import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import request from 'supertest';
import { path, ROUTES, type EditAnswer, type ProjectInfo, type ProjectSummary } from '@folvex/contract';
import { ownFontId, unpackPage } from '@folvex/core';
import { useServer } from '../support/harness';

const require = createRequire(import.meta.url);
const BOLD = readFileSync(require.resolve('source-sans/OTF/SourceSans3-Bold.otf'));
const server = useServer();

const projectOf = async (id: string): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: id }))).body as ProjectInfo;
const send = (bytes: Buffer, name: string) =>
  request(server.app)
    .post(path(ROUTES.typefaces, { project: server.project }))
    .attach('file', bytes, name);
const bytesOf = (address: string) => request(server.app).get(address).responseType('blob');

async function fontsOn(project: string, sheet: string): Promise<string[]> {
  const { body } = await bytesOf(path(ROUTES.sheetPage, { project, sheet }));
  return [...new Set(unpackPage(new Uint8Array(body as Buffer)).texts.map(({ font }) => font))];
}

describe('A typeface of a project', () => {
  it('comes in once, letters the sheets that ask for it, is served for the screen, and can be undone', async () => {
    const answer = await send(BOLD, 'isocp.otf');
    expect(answer.status).toBe(201);
    const { settings, history } = answer.body as EditAnswer;
    const typeface = settings!.project.typefaces!.at(-1);
    expect(typeface).toMatchObject({ id: 'source-sans-3-bold', name: 'Source Sans 3 Bold', file: 'isocp.otf' });
    expect(typeface!.asked).toEqual(['isocp', 'source sans 3 bold', 'sourcesans3-bold']);
    expect(history.undo).toBe('typeface Source Sans 3 Bold');
    const again = (await send(BOLD, 'other.otf')).body as EditAnswer;
    expect(again.settings!.project.typefaces).toEqual(settings!.project.typefaces);

    const font = ownFontId(typeface!.hash!);
    const sheet = (await projectOf(server.project)).sheets.find(({ number }) => number === 'A-101')!;
    expect(await fontsOn(server.project, sheet.id)).toContain(font);
    const { drawings } = await projectOf(server.project);
    const drawing = drawings.find(({ name }) => name === 'ground-floor.dxf')!.id;
    const space = await bytesOf(path(ROUTES.spacePage, { drawing, space: 0 }));
    expect(unpackPage(new Uint8Array(space.body as Buffer)).texts.map((text) => text.font)).toContain(font);
    expect((await request(server.app).get(path(ROUTES.drawingFont, { drawing, font }))).status).toBe(200);
    const served = await bytesOf(path(ROUTES.ownFont, { project: server.project, font }));
    expect((served.body as Buffer).equals(BOLD)).toBe(true);
    const other = path(ROUTES.ownFont, { project: server.project, font: ownFontId('0'.repeat(64)) });
    expect((await request(server.app).get(other)).status).toBe(404);
  });

  it('letters text styles and title blocks that name it', async () => {
    const { project, sheets } = await projectOf(server.project);
    const font = 'source-sans-3-bold';
    const cell = { left: 0, right: 0, bottom: 0, top: 0, text: '[sheet.title]', font };
    const block = { id: 'own', name: 'Own', place: 'side', width: 90, height: 20, cells: [cell] };
    const changed = await request(server.app)
      .patch(path(ROUTES.settings, { project: server.project }))
      .send({ project: { titleBlocks: [block] } });
    expect(changed.status).toBe(200);
    const sheet = sheets[0]!;
    const { body } = await bytesOf(
      path(ROUTES.templatePage, { project: server.project, template: 'own', sheet: sheet.id }),
    );
    const { texts } = unpackPage(new Uint8Array(body as Buffer));
    expect(texts.find(({ text }) => text === sheet.title)?.font).toBe(ownFontId(project.typefaces!.at(-1)!.hash!));
  });

  it('goes along with the project in its archive', async () => {
    const archive = (await bytesOf(path(ROUTES.projectZip, { project: server.project }))).body as Buffer;
    const copy = await request(server.app).post(ROUTES.projectImport).attach('file', archive, 'project.zip');
    expect(copy.status).toBe(201);
    const { project } = await projectOf((copy.body as ProjectSummary).id);
    expect(project.typefaces).toEqual((await projectOf(server.project)).project.typefaces);
  });

  it('that cannot be read is refused with a sentence', async () => {
    const { status, body } = await send(Buffer.from('Dear reader'), 'letter.ttf');
    expect(status).toBe(422);
    expect(body.problem).toMatchObject({ code: 'typeface.unreadable', place: { file: 'letter.ttf' } });
  });
});
