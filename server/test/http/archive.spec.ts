import { once } from 'node:events';
import { rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { ZipFile } from 'yazl';
import { path, ROUTES, type EditAnswer, type ProjectInfo, type ProjectSummary, type Received } from '@folvex/contract';
import { readJobFile } from '@folvex/core';
import { createApp } from '../../src/http/app';
import { useServer } from '../support/harness';

const server = useServer();

const projectOf = async (id: string): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: id }))).body as ProjectInfo;

/** The archive of a project, as it is downloaded. */
async function exported(id: string): Promise<{ body: Buffer; disposition: string }> {
  const response = await request(server.app)
    .get(path(ROUTES.projectZip, { project: id }))
    .buffer()
    .parse((stream, done) => {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => done(null, Buffer.concat(chunks)));
    });
  return { body: response.body as Buffer, disposition: String(response.headers['content-disposition']) };
}
const imported = (archive: Buffer, name = 'project.zip') =>
  request(server.app).post(ROUTES.projectImport).attach('file', archive, name);

async function zipOf(files: Readonly<Record<string, string>>): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [name, content] of Object.entries(files)) zip.addBuffer(Buffer.from(content), name);
  zip.end();
  const chunks: Buffer[] = [];
  for await (const chunk of zip.outputStream) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

/** A project with its drawings named instead of numbered, which differ from copy to copy. */
function withNames({ drawings, sheets, packages, project, groups, recipes }: ProjectInfo): unknown {
  const names = new Map(drawings.map(({ id, name }) => [id, name]));
  const text = JSON.stringify({ sheets, packages, project, groups, recipes });
  return JSON.parse([...names].reduce((now, [id, name]) => now.replaceAll(id, name), text));
}

describe('a project as an archive', () => {
  it('goes out and comes in again as it was', async () => {
    const demo = await projectOf(server.project);
    const ground = demo.drawings.find(({ name }) => name === 'ground-floor.dxf')!;
    const windows = [{ name: 'Ticket hall', window: [0, 0, 1000, 500] }];
    await request(server.app)
      .patch(path(ROUTES.drawing, { drawing: ground.id }))
      .send({ windows });
    const { body, disposition } = await exported(server.project);
    expect(decodeURIComponent(disposition)).toContain('2617 Tern Quay Ferry Terminal.zip');
    const answer = await imported(body);
    expect(answer.status).toBe(201);
    const copy = await projectOf((answer.body as ProjectSummary).id);
    expect(copy.id).not.toBe(demo.id);
    expect(withNames(copy)).toEqual(withNames(demo));
    const facts = (info: ProjectInfo) =>
      info.drawings.map(({ name, hash, unit, entities }) => [name, hash, unit, entities]).sort();
    expect(facts(copy)).toEqual(facts(demo));
    expect(copy.drawings.find(({ name }) => name === 'ground-floor.dxf')!.windows).toEqual(windows);
    // The same project gives the same archive.
    expect((await exported(server.project)).body.equals(body)).toBe(true);
  });

  it('keeps what a held view shows as a drawing of its own', async () => {
    const line = (layer: string): string =>
      `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n${layer}\n10\n0\n20\n0\n11\n100\n21\n50\n0\nENDSEC\n0\nEOF\n`;
    const send = (content: string) =>
      request(server.app)
        .post(path(ROUTES.drawings, { project: server.project }))
        .attach('file', Buffer.from(content), 'held.dxf');
    const { drawing } = (await send(line('OLD'))).body as Extract<Received, { outcome: 'added' }>;
    const sheet = { drawing: drawing.id, number: 'H-1', title: '', group: '', scale: '1:1' };
    const paper = { name: 'A4', orientation: 'landscape' };
    const made = (
      await request(server.app)
        .post(path(ROUTES.sheets, { project: server.project }))
        .send({ ...sheet, paper })
    ).body as EditAnswer;
    await request(server.app)
      .patch(path(ROUTES.sheet, { project: server.project, sheet: made.sheets[0]!.id }))
      .send({ hold: { drawing: drawing.id, held: true } });
    const newer = (await send(line('NEW'))).body as Extract<Received, { outcome: 'newer' }>;
    await request(server.app)
      .post(path(ROUTES.offers, { project: server.project }))
      .send({ offered: newer.offered, as: 'version', drawing: drawing.id });
    const copy = await projectOf(((await imported((await exported(server.project)).body)).body as ProjectSummary).id);
    const [view] = copy.sheets.find(({ number }) => number === 'H-1')!.views;
    expect(view).not.toHaveProperty('held');
    const shown = copy.drawings.find(({ id }) => id === view!.drawing)!;
    expect([shown.name, shown.hash]).toEqual(['held (earlier version).dxf', drawing.hash]);
  });

  it('holds a job file that the headless command reads', async () => {
    const { body } = await exported(server.project);
    const { fromBufferPromise } = await import('yauzl');
    const zip = await fromBufferPromise(body);
    for await (const entry of zip.eachEntry()) {
      if (entry.fileName !== 'job.json') continue;
      const chunks: Buffer[] = [];
      for await (const chunk of await zip.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
      const read = readJobFile(Buffer.concat(chunks).toString());
      expect(read.ok && read.job.sheets.length).toBe((await projectOf(server.project)).sheets.length);
      return;
    }
    throw new Error('there is no job file');
  });

  it.each(['../secret.svg', '/secret.svg', 'drawings/../../secret.svg'])(
    'reads no file outside of it: %s',
    async (file) => {
      const secret = join(tmpdir(), 'secret.svg');
      writeFileSync(
        secret,
        '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><path d="M0 0H9"/></svg>',
      );
      try {
        const named = file === '/secret.svg' ? secret : file;
        const job = {
          folvex: 4,
          project: { number: '1', name: 'X', client: '' },
          drawings: [{ id: 'd', file: named }],
        };
        const { status, body } = await imported(await zipOf({ 'job.json': JSON.stringify(job) }));
        expect([status, (body as { problem: { code: string; sentence: string } }).problem]).toEqual([
          422,
          expect.objectContaining({
            code: 'job.file',
            sentence: expect.stringContaining('outside the folder') as string,
          }),
        ]);
      } finally {
        rmSync(secret, { force: true });
      }
    },
  );

  it('creates nothing where the import is cancelled', async () => {
    const archive = (await exported(server.project)).body;
    const before = (await request(server.app).get(ROUTES.projects)).body as ProjectSummary[];
    const { press } = server.services;
    let inspected = 0;
    let cancel = (): Promise<unknown> => Promise.resolve();
    const inspect: typeof press.inspect = async (file) => {
      inspected += 1;
      await cancel();
      return press.inspect(file);
    };
    const app = createApp({ ...server.services, press: { ...press, inspect } });
    await new Promise<void>((resolve) => {
      const front = createServer((incoming, response) => {
        const closed = once(response, 'close');
        cancel = () => {
          sending.abort();
          return closed;
        };
        // The route ends its answer, whichever it is, though nobody reads it.
        const end = response.end.bind(response);
        response.end = (...last: unknown[]) => {
          front.close(() => resolve());
          return end(...(last as []));
        };
        app(incoming, response);
      });
      const sending = request(front.listen(0, '127.0.0.1')).post(ROUTES.projectImport);
      sending.attach('file', archive, 'project.zip').end(() => undefined);
    });
    expect(inspected).toBe(1);
    expect((await request(server.app).get(ROUTES.projects)).body).toHaveLength(before.length);
  });

  it.each([
    ['notes.txt', Buffer.from('no archive'), 'notes.txt is not a ZIP archive'],
    ['empty.zip', {}, 'empty.zip has no job.json'],
    ['odd.zip', { 'job.json': '{' }, 'The job file is not JSON'],
    [
      'half.zip',
      {
        'job.json': JSON.stringify({
          folvex: 4,
          project: { number: '1', name: 'Half', client: '' },
          drawings: [{ id: 'd', file: 'd.dxf' }],
        }),
      },
      'The job file names d.dxf, which is not next to it',
    ],
  ])('is refused with one sentence where it is none: %s', async (name, content, sentence) => {
    const archive = Buffer.isBuffer(content) ? content : await zipOf(content as Record<string, string>);
    const before = (await request(server.app).get(ROUTES.projects)).body as ProjectSummary[];
    const { status, body } = await imported(archive, name);
    expect([status, (body as { problem: { sentence: string } }).problem.sentence]).toEqual([
      422,
      expect.stringContaining(sentence),
    ]);
    expect((await request(server.app).get(ROUTES.projects)).body).toHaveLength(before.length);
  });
});
