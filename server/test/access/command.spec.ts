import { execFile } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import request from 'supertest';
import { ROUTES, type ProjectInfo, path, type TokenScope } from '@folvex/contract';
import { useServer } from '../support/harness';
import { browserOf, colleague, officeApp } from '../support/office';

const server = useServer();
const FOLVEX = join(process.cwd(), 'cli', 'bin', 'folvex.mjs');
let listening: Server;
let address: string;

beforeAll(async () => {
  server.work();
  listening = createServer(officeApp(server));
  await new Promise<void>((ready) => listening.listen(0, '127.0.0.1', ready));
  address = `http://127.0.0.1:${(listening.address() as AddressInfo).port}`;
});
afterAll(() => {
  listening.closeAllConnections();
  listening.close();
});

interface Ended {
  code: number;
  out: string;
  err: string;
}

function folvex(token: string | undefined, ...args: string[]): Promise<Ended> {
  const env = { ...process.env, ...(token !== undefined && { FOLVEX_TOKEN: token }) };
  return new Promise((resolve) => {
    execFile(process.execPath, [FOLVEX, ...args, '--server', address], { env }, (error, out, err) =>
      resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err }),
    );
  });
}

async function tokenOf(name: string, scope: TokenScope): Promise<string> {
  const person = await colleague(server, name, { roles: { [server.project]: 'drafter' } });
  const browser = await browserOf(officeApp(server), person);
  return (await browser.post(ROUTES.tokens).send({ name, scope, days: 1 })).body.token as string;
}

const line = (x: number): string =>
  `0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nA\n10\n0\n20\n0\n11\n${x}\n21\n50\n0\nENDSEC\n0\nEOF\n`;

it('the command sends drawings and newer versions of them, and publishes a package on a server', async () => {
  const token = await tokenOf('Script', 'publish');
  const file = join(server.data, 'pushed.dxf');
  const push = () => folvex(token, 'push', file, '--project', '2617');
  writeFileSync(file, line(100));
  expect(await push()).toMatchObject({ code: 0, out: `${file}  added\n` });
  expect((await push()).out).toBe(`${file}  there already\n`);
  writeFileSync(file, line(200));
  expect((await push()).out).toBe(`${file}  newer version\n`);
  const out = join(server.data, 'fetched');
  const run = await folvex(token, 'run', 'tender', '--project', 'Tern Quay Ferry Terminal', '--out', out);
  expect([run.err, run.code]).toEqual(['', 0]);
  const [first] = run.out.split('  ');
  expect(readFileSync(join(out, first!)).subarray(0, 5).toString()).toBe('%PDF-');
  expect(run.out.trim().split('\n').at(-1)).toBe('done, 8 files');
  const who = (await browserOf(officeApp(server), { email: 'script@office.example' }))
    .get(path(ROUTES.project, { project: server.project }))
    .then(({ body }) => (body as ProjectInfo).runs[0]!.startedBy);
  expect(await who).toBe('Script');
});

it('the command says where a package was delivered, and ends with 1 where something did not arrive', async () => {
  const token = await tokenOf('Sender', 'publish');
  const deliver = (folder: string) =>
    request(server.app)
      .patch(path(ROUTES.package, { project: server.project, package: 'tender' }))
      .send({ destinations: [{ kind: 'folder', folder, onConflict: 'both' }] })
      .expect(200);
  await deliver('sent');
  const run = await folvex(token, 'run', 'tender', '--project', '2617');
  expect([run.err, run.code]).toEqual(['', 0]);
  expect(run.out).toContain(`${join(server.data, 'delivered', 'sent')}  done, 8 of 8 files\n`);
  writeFileSync(join(server.data, 'delivered', 'taken'), 'no folder');
  await deliver('taken');
  const failed = await folvex(token, 'run', 'tender', '--project', '2617');
  expect(failed.out).toContain('failed, 0 of 8 files');
  expect([failed.code, failed.err]).toEqual([1, expect.stringContaining('could not be delivered')]);
});

it('the command says in one sentence what it may not do, and what is not there', async () => {
  const reading = await tokenOf('Looker', 'read');
  const file = join(server.data, 'not-sent.dxf');
  writeFileSync(file, line(5));
  const cases: [string | undefined, string[], string][] = [
    [undefined, ['push', file, '--project', '2617'], 'create one under Account, and give it in FOLVEX_TOKEN'],
    [reading, ['push', file, '--project', '2617'], 'This needs the drafter role in the project'],
    [reading, ['push', file, '--project', '9999'], 'There is no project 9999 that this token may work in'],
    [reading, ['push', `${file}.gone`, '--project', '2617'], 'There is no such file'],
    [reading, ['run', 'nothing', '--project', '2617'], 'This needs the drafter role'],
  ];
  for (const [token, args, sentence] of cases) {
    const { code, err } = await folvex(token, ...args);
    expect(err).toContain(sentence);
    expect(err).not.toMatch(/^\s+at /m);
    expect(code).toBeGreaterThan(0);
  }
  expect(existsSync(join(server.data, 'fetched', 'nothing'))).toBe(false);
});
