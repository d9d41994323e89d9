import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  newHostKey,
  SharedFolder,
  startMailbox,
  startPlotter,
  startSftpServer,
  type StandInMailbox,
  type StandInPlotter,
  type StandInServer,
} from '../../stand-ins/src/index';
import { DueTimes } from '../src/watch';
import { ownFolder, smallJob, tool, WALL_DXF, type Ended } from './command';

const BIN = fileURLToPath(new URL('../bin/folvex.mjs', import.meta.url));
const base = ownFolder();
const ACCOUNT = { user: 'folvex', password: 'quay 7' };

/** Runs the command while the servers of this process answer it. */
function folvex(args: readonly string[], environment: Record<string, string> = {}): Promise<Ended> {
  const child = spawn(process.execPath, [BIN, ...args], { env: { ...process.env, ...environment } });
  const ended: Ended = { code: null, out: '', err: '' };
  child.stdout.on('data', (chunk) => (ended.out += String(chunk)));
  child.stderr.on('data', (chunk) => (ended.err += String(chunk)));
  return new Promise((resolve) => child.on('close', (code) => resolve({ ...ended, code })));
}

let shared: SharedFolder;
let sftp: StandInServer;
let mailbox: StandInMailbox;
let plotter: StandInPlotter;
beforeAll(async () => {
  shared = new SharedFolder(join(base, 'sftp'));
  mkdirSync(shared.root);
  sftp = await startSftpServer({ folder: shared, account: ACCOUNT, hostKey: newHostKey() });
  mailbox = await startMailbox();
  plotter = await startPlotter({ media: [{ kind: 'roll', width: 610, leftMm: 100_000 }] });
});
afterAll(() => Promise.all([sftp.stop(), mailbox.stop(), plotter.stop()]));

let count = 0;
function fresh(destinations: readonly object[] | undefined, more: object = {}): { folder: string; job: string } {
  const folder = join(base, `job ${++count}`);
  mkdirSync(folder);
  const pack = { id: 'p', name: 'Set', order: ['s'], names: { bundle: '[package.name]' }, destinations, ...more };
  return { folder, job: smallJob(folder, WALL_DXF, { packages: [pack] }) };
}
function serversIn(folder: string): string {
  const file = join(folder, 'servers.json');
  const servers = [
    {
      ...{ id: 'engineer', name: 'Engineer', address: sftp.address, user: ACCOUNT.user, secretFrom: 'SFTP_PASSWORD' },
      fingerprint: sftp.fingerprint,
    },
    { id: 'post', address: mailbox.address },
    { id: 'roll', name: 'Roll plotter', address: plotter.address },
  ];
  writeFileSync(file, JSON.stringify(servers));
  return file;
}
const SERVER = { kind: 'server', server: 'engineer', folder: '[project.number]', onConflict: 'stop' };
const MAIL = { kind: 'mail', server: 'post', from: 'office@folvex.example', to: 'a@quay.example, b@quay.example' };

describe('folvex send', () => {
  it('publishes a package and sends it to a folder, a server, by email and to a plotter', async () => {
    const folders = { kind: 'folder', folder: 'issued', onConflict: 'stop' };
    const { folder, job } = fresh([folders, SERVER, MAIL, { kind: 'plotter', server: 'roll' }]);
    const receipts = join(folder, 'receipts.json');
    const args = [
      ...['send', job, '--out', join(folder, 'out'), '--delivery', join(folder, 'delivered')],
      ...['--servers', serversIn(folder), '--receipts', receipts],
    ];
    const ended = await folvex(args, { SFTP_PASSWORD: ACCOUNT.password });
    expect([ended.err, ended.code]).toEqual(['', 0]);
    expect(ended.out).toContain('Roll plotter  1 of 1 file');
    const published = readFileSync(join(folder, 'out', 'Set.pdf'));
    expect(readFileSync(join(folder, 'delivered', 'issued', 'Set.pdf')).equals(published)).toBe(true);
    expect(readFileSync(shared.at('1/Set.pdf')).equals(published)).toBe(true);
    const attached = mailbox.mails.map(({ attachments }) => attachments[0]!.content.equals(published));
    expect(attached).toEqual([true, true]);
    expect(plotter.queue.jobs.map(({ state, pieces }) => [state, pieces])).toEqual([['completed', 1]]);
    // The plotter was given the sheet at true size (ISO 216: A1), turned to the roll.
    writeFileSync(join(folder, 'plot.pdf'), plotter.queue.jobs[0]!.pdf);
    const [, width, height] = /Page size: +([\d.]+) x ([\d.]+)/.exec(tool('pdfinfo', join(folder, 'plot.pdf')))!;
    const sides = [Number(width), Number(height)].sort((a, b) => a - b);
    expect(sides[1]! / 72).toBeCloseTo(841 / 25.4, 1);
    const { sent } = JSON.parse(readFileSync(receipts, 'utf8')) as { sent: { where: string }[] };
    expect(sent).toHaveLength(5);
    expect(sent[1]).toMatchObject({ outcomes: [{ path: 'Set.pdf', outcome: { how: 'new' } }] });
    // Done again, nothing is replaced, and what is there is not sent a second time.
    const again = await folvex([...args.slice(0, 6), '--servers', serversIn(folder), '--receipts', receipts], {
      SFTP_PASSWORD: ACCOUNT.password,
    });
    expect(again.code).toBe(0);
    expect(JSON.parse(readFileSync(receipts, 'utf8'))).toMatchObject({
      sent: [
        { outcomes: [{ outcome: { how: 'there already' } }] },
        { outcomes: [{ outcome: { how: 'there already' } }] },
        {},
        {},
        {},
      ],
    });
  });

  it('emails to each the files that they get', async () => {
    const mail = { ...MAIL, to: 'Plan room, Fabricator' };
    const { folder, job } = fresh([mail], {
      ...{ extraFormats: { formats: ['dxf'] } },
      names: { bundle: '[package.name]', file: '[sheet.number]' },
    });
    const content = JSON.parse(readFileSync(job, 'utf8')) as { project?: object };
    const people = [
      { id: 'r', name: 'Plan room', mail: 'plans@quay.example', formats: ['pdf'] },
      { id: 'f', name: 'Fabricator', mail: 'cnc@quay.example', formats: ['svg'] },
    ];
    writeFileSync(job, JSON.stringify({ ...content, project: { ...content.project, people } }));
    const before = mailbox.mails.length;
    const receipts = join(folder, 'receipts.json');
    const ended = await folvex(
      [...['send', job, '--out', join(folder, 'out'), '--servers', serversIn(folder), '--receipts', receipts]],
      { SFTP_PASSWORD: '' },
    );
    expect(ended).toMatchObject({ code: 0 });
    expect(ended.out).toContain('plans@quay.example  1 of 2 files');
    expect(ended.out).toContain('cnc@quay.example  0 of 2 files');
    const attached = mailbox.mails.slice(before).map(({ attachments }) => attachments.map(({ filename }) => filename));
    expect(attached).toEqual([['Set.pdf']]);
    const { sent } = JSON.parse(readFileSync(receipts, 'utf8')) as { sent: { outcomes: { outcome: object }[] }[] };
    expect(sent[0]!.outcomes.map(({ outcome }) => outcome)).toMatchObject([{ how: 'mailed' }, { how: 'left out' }]);
  });

  it('says what did not arrive, and sends the rest', async () => {
    const { folder, job } = fresh([{ ...SERVER, server: 'nobody' }, { ...MAIL, to: 'gone@quay.example' }, SERVER]);
    writeFileSync(shared.at('1/Set.pdf'), 'another file');
    const ended = await folvex(['send', job, '--out', join(folder, 'out'), '--servers', serversIn(folder)], {
      SFTP_PASSWORD: ACCOUNT.password,
    });
    expect(ended.code).toBe(1);
    expect(ended.err).toContain('stop transfer.absent: ');
    expect(ended.err).toContain('stop mail.refused: ');
    expect(ended.err).toContain('stop destination.conflict: ');
    expect(ended.err).not.toMatch(/^\s+at /m);
    expect(String(readFileSync(shared.at('1/Set.pdf')))).toBe('another file');
  });

  it.each([
    ['no JSON', '{', 'it is not JSON'],
    ['something else', '[{"id":"x","address":"sftp://h","colour":1}]', 'colour'],
    ['a bad address', '[{"id":"x","address":"nowhere"}]', 'nowhere is not an address'],
    ['a secret that is not set', '[{"id":"x","address":"sftp://h","secretFrom":"FOLVEX_NONE"}]', 'FOLVEX_NONE'],
  ])('refuses a file of servers that is %s', async (_, content, part) => {
    const { folder, job } = fresh([SERVER]);
    writeFileSync(join(folder, 'servers.json'), content);
    const ended = await folvex(['send', job, '--out', join(folder, 'out'), '--servers', join(folder, 'servers.json')]);
    expect([ended.code, ended.err.trim().split('\n').length]).toEqual([2, 1]);
    expect(ended.err).toContain(part);
    expect(existsSync(join(folder, 'out'))).toBe(false);
  });

  it('says that a package has nowhere to go', async () => {
    const { folder, job } = fresh(undefined);
    const ended = await folvex(['send', job, '--out', join(folder, 'out')]);
    expect([ended.code, ended.err.trim()]).toEqual([
      2,
      'The package "p" has no destinations; add some, or use folvex publish.',
    ]);
    expect(existsSync(join(folder, 'out'))).toBe(false);
  });
});

describe('folvex watch', () => {
  it('sends a package once its drawing has changed', async () => {
    const { folder, job } = fresh([{ kind: 'folder', folder: 'issued', onConflict: 'replace' }]);
    const args = [
      ...['watch', job, '--out', join(folder, 'out'), '--delivery', join(folder, 'delivered')],
      ...['--quiet', '0', '--replace'],
    ];
    const child = spawn(process.execPath, [BIN, ...args]);
    let changed = false;
    const told = new Promise<void>((resolve) => {
      let out = '';
      child.stdout.on('data', (chunk) => {
        out += String(chunk);
        if (out.startsWith('Watching') && !changed) {
          changed = true;
          writeFileSync(join(folder, 'wall.dxf'), WALL_DXF.replace('Brick 300', 'Brick 365'));
        }
        if (/Z {2}sent$/m.test(out)) resolve();
      });
    });
    await told;
    child.kill('SIGTERM');
    await new Promise((ended) => child.on('close', ended));
    expect(readdirSync(join(folder, 'delivered', 'issued'))).toEqual(['Set.pdf']);
    expect(tool('pdftotext', join(folder, 'delivered', 'issued', 'Set.pdf'), '-')).toContain('Brick 365');
  });

  it('waits until nothing has changed for a while, and is not due twice', () => {
    const due = new DueTimes('a', 0, 'UTC', 60_000);
    const at = (minutes: number, state: string) => due.isDue({}, state, minutes * 60_000);
    expect([at(1, 'a'), at(2, 'b'), at(2.5, 'c'), at(3, 'c'), at(3.5, 'c'), at(9, 'c')]).toEqual([
      ...[false, false, false, false, true, false],
    ]);
  });

  it('goes by the times of the package, in the time zone given, and pauses', () => {
    const start = Date.parse('2026-11-27T14:59:00Z');
    const daily = { publishes: 'day', publishAt: '16:00' } as const;
    const due = new DueTimes('a', start, 'Europe/Berlin', 0);
    const at = (minutes: number, pack: object = daily) => due.isDue(pack, 'a', start + minutes * 60_000);
    expect([at(0.5), at(1), at(2), at(24 * 60 + 2)]).toEqual([false, true, false, true]);
    expect(at(48 * 60 + 2, { ...daily, pausedUntil: '2026-12-24' })).toBe(false);
    const changed = new DueTimes('a', start, 'UTC', 0);
    expect(changed.isDue({ publishes: 'change', pausedUntil: '2026-12-24' }, 'b', start + 1)).toBe(false);
    expect(changed.isDue({ publishes: 'change' }, 'b', start + 2)).toBe(true);
  });
});
