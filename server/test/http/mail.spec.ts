import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Attachment } from 'mailparser';
import request from 'supertest';
import { path, ROUTES, type AuditRow, type DeliveryInfo, type RunInfo } from '@folvex/contract';
import type { Mail } from '@folvex/core';
import { sha256 } from '@folvex/press';
import { tool } from '../../../press/test/support/published';
import type { MailPeer } from '../../../press/test/support/mail-peer';
import type { RunReport } from '../../src/work/runs/run-report';
import { outcomesOf } from '../support/delivered';
import { emailedRun } from '../support/emailed';
import { until, useServer } from '../support/harness';

const server = useServer();
let peer: MailPeer;
let run: RunInfo;

const MAIL: Mail = {
  ...{ kind: 'mail', server: 'post', from: 'drafting@office.example' },
  to: 'site@harbour.example, gone@harbour.example; Site@harbour.example',
  ...{ subject: '[project.number] [package.name]', text: 'Issued on [run.date].\n[project.name]', mostMb: 50 },
};

beforeAll(async () => {
  ({ peer, run } = await emailedRun(
    server,
    MAIL,
    new Map([['gone@harbour.example', { code: 550, text: 'no such mailbox' }]]),
  ));
});
afterAll(() => peer.stop());

const told = async (id = run.id): Promise<RunInfo> =>
  (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo;
const send = (destination: Mail) =>
  request(server.app)
    .post(path(ROUTES.deliveries, { run: run.id }))
    .send({ destination });
const latest = (until: (delivery: DeliveryInfo) => boolean) => async (): Promise<DeliveryInfo | undefined> =>
  (await told()).deliveries.filter(until).at(-1);

describe('a package that is sent by mail', () => {
  it('goes to each recipient on their own: one that is refused keeps the others from nothing', () => {
    expect(run.deliveries.map(({ location, state }) => [location, state])).toEqual([
      ['site@harbour.example', 'done'],
      ['gone@harbour.example', 'failed'],
    ]);
    const [site, gone] = run.deliveries as [DeliveryInfo, DeliveryInfo];
    expect(outcomesOf(site)).toEqual(run.files.map(({ path: file }) => ({ path: file, how: 'mailed' })));
    expect(gone).toMatchObject({ problem: { code: 'mail.refused' }, receipts: [] });
    expect(peer.mails).toHaveLength(1);
    const [{ parsed, to }] = peer.mails as [MailPeer['mails'][number]];
    expect(to).toEqual(['site@harbour.example']);
    expect(parsed.subject).toMatch(/^2617 \S/);
    expect(parsed.text).toMatch(/^Issued on \d{4}-\d{2}-\d{2}\.\n\S/);
    expect(parsed.attachments.map(({ content }) => sha256(content))).toEqual(run.files.map((file) => file.sha256));
  });

  it('has its mails in the report and in the audit', async () => {
    const at = { run: run.id, format: 'json' };
    const report = (await request(server.app).get(path(ROUTES.runReport, at))).body as RunReport;
    const [first] = run.files;
    expect(report.deliveries[0]).toMatchObject({
      ...{ destination: 'site@harbour.example', outcome: `mailed: ${first!.path}`, bytes: null },
    });
    const audit = (await request(server.app).get(ROUTES.audit)).body as AuditRow[];
    const ends = audit
      .filter(({ event }) => event.startsWith('delivery.'))
      .map(({ event, subject }) => [event, subject]);
    expect(ends).toEqual(
      expect.arrayContaining([
        ['delivery.done', `site@harbour.example (${run.files.length} files)`],
        ['delivery.failed', 'gone@harbour.example (0 files)'],
      ]),
    );
  });

  it('is sent again to who refused it, and only there', async () => {
    peer.replies.delete('gone@harbour.example');
    const before = peer.mails.length;
    const gone = run.deliveries[1]!;
    await request(server.app)
      .post(path(ROUTES.deliveryAgain, { run: run.id, delivery: gone.id }))
      .expect(200);
    await until(
      latest(({ id, state }) => id === gone.id && state === 'done'),
      Boolean,
    );
    expect(peer.mails.slice(before).map(({ to }) => to)).toEqual([['gone@harbour.example']]);
  });

  it('has the transmittal and the register of its recipients with it once it is issued', async () => {
    await request(server.app)
      .post(path(ROUTES.issues, { project: server.project }))
      .send({ run: run.id, date: '2026-11-01', purpose: 'Secret bid', recipients: ['Somebody else'] })
      .expect(201);
    await request(server.app)
      .post(path(ROUTES.issues, { project: server.project }))
      .send({ run: run.id, date: '2026-11-02', purpose: 'Tender', recipients: ['Site office'] })
      .expect(201);
    await send({ ...MAIL, to: 'issued@harbour.example' }).expect(201);
    await until(
      latest(({ location, state }) => location === 'issued@harbour.example' && state === 'done'),
      Boolean,
    );
    const { parsed } = peer.mails.at(-1)!;
    expect(parsed.attachments).toHaveLength(run.files.length + 2);
    const [transmittal, register] = parsed.attachments.slice(-2) as [Attachment, Attachment];
    expect(transmittal.filename).toBe('Transmittal 2.pdf');
    const file = join(server.data, 'transmittal.pdf');
    writeFileSync(file, transmittal.content);
    expect(tool('pdftotext', file, '-')).toContain('Site office');
    expect(register.filename).toBe('Issue register.xlsx');
    writeFileSync(join(server.data, 'register.xlsx'), register.content);
    // Read by Python's own zipfile, which knows nothing of what wrote it.
    const script =
      'import sys,zipfile; z=zipfile.ZipFile(sys.argv[1]); print("".join(z.read(n).decode() for n in z.namelist()))';
    const sheet = tool('python3', '-c', script, join(server.data, 'register.xlsx'));
    expect(sheet).toContain('Tender');
    expect(sheet).not.toContain('Secret bid');
  });

  it('has the receipts of what was taken while it was being cancelled, and is not sent a second time', async () => {
    let release!: () => void;
    peer.pause = new Promise((resolve) => (release = resolve));
    const before = peer.mails.length;
    await send({ ...MAIL, to: 'cancelled@harbour.example' }).expect(201);
    await until(
      async () => peer.mails.length,
      (count) => count === before + 1,
    );
    const { id } = (await told()).deliveries.at(-1)!;
    const act = (what: 'deliveryCancel' | 'deliveryAgain') =>
      request(server.app).post(path(ROUTES[what], { run: run.id, delivery: id }));
    await act('deliveryCancel').expect(200);
    release();
    const cancelled = await until(
      latest((one) => one.id === id && one.receipts.length > 0),
      Boolean,
    );
    expect(cancelled).toMatchObject({ state: 'cancelled' });
    expect(outcomesOf(cancelled!)).toEqual(run.files.map(({ path: file }) => ({ path: file, how: 'mailed' })));
    await act('deliveryAgain').expect(200);
    await until(
      latest((one) => one.id === id && one.state === 'done'),
      Boolean,
    );
    expect(peer.mails).toHaveLength(before + 1);
  });

  it('waits where the server asks for that, and is sent once it takes it', async () => {
    peer.replies.set('late@harbour.example', { code: 451, text: 'greylisted' });
    const before = peer.mails.length;
    await send({ ...MAIL, to: 'late@harbour.example' }).expect(201);
    const waiting = await until(
      latest(({ nextAttemptAt }) => nextAttemptAt !== null),
      Boolean,
    );
    expect(waiting!.problem).toMatchObject({ sentence: 'Peer does not take emails now (451 greylisted).' });
    peer.replies.clear();
    await server.services.connection.pool.query(`update pgboss.job set start_after = now() where state < 'active'`);
    await until(
      latest(({ id, state }) => id === waiting!.id && state === 'done'),
      Boolean,
    );
    expect(peer.mails).toHaveLength(before + 1);
  });

  it('is not sent where it is too large, or an address is none', async () => {
    const before = peer.mails.length;
    const total = run.files.reduce((sum, { bytes }) => sum + bytes, 0);
    expect(total).toBeGreaterThan(1e5);
    await send({ ...MAIL, to: 'large@harbour.example', mostMb: 0.1 }).expect(201);
    const failed = await until(
      latest(({ location, state }) => location === 'large@harbour.example' && state === 'failed'),
      Boolean,
    );
    expect(failed!.problem).toMatchObject({ code: 'mail.size' });
    for (const [changed, code] of [
      [{ to: 'site@harbour.example, nobody' }, 'mail.address'],
      [{ to: ' , ' }, 'mail.nobody'],
      [{ from: 'a@b.example\r\nBcc: c@d.example' }, 'mail.address'],
    ] as const) {
      const refused = await send({ ...MAIL, ...changed }).expect(400);
      expect(refused.body).toMatchObject({ problem: { code } });
    }
    expect(peer.mails).toHaveLength(before);
  });
});
