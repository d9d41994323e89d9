import { existsSync, utimesSync, writeFileSync } from 'node:fs';
import { eq, sql } from 'drizzle-orm';
import request from 'supertest';
import { path, ROUTES, type ProjectInfo, type RunInfo } from '@folvex/contract';
import { runById } from '../../src/data/runs';
import { addVisit, ensureRecipientPage, recipientPageOf } from '../../src/data/recipient-pages';
import { deliveries } from '../../src/data/delivery-schema';
import { artifacts, drawings, projects, runs } from '../../src/data/schema';
import { onOneConnection } from '../../src/data/database';
import { findArtifact } from '../../src/data/artifacts';
import { lockSweep, unlockSweep, type Retention } from '../../src/data/retention';
import { scrub } from '../../src/work/maintain/scrub';
import { sweep } from '../../src/work/maintain/sweep';
import { delivered } from '../support/delivered';
import { contentPath, until, useServer } from '../support/harness';
import { emptyProject } from '../support/office';

const server = useServer();
const HOUR_MS = 3600_000;
const KEEP: Retention = { removedDays: 30, runDays: undefined, artifactDays: 30 };

const sweepNow = (retention = KEEP, grace = HOUR_MS) =>
  sweep(server.services.connection, server.services.store, retention, grace);
/** As if nobody had asked for a content for two hours. */
function age(hash: string): void {
  const then = new Date(Date.now() - 2 * HOUR_MS);
  utimesSync(contentPath(server, hash), then, then);
}
const isThere = (hash: string): boolean => existsSync(contentPath(server, hash));

async function publish(): Promise<RunInfo> {
  const { app, project } = server;
  const { body } = await request(app)
    .post(path(ROUTES.runs, { project, package: 'tender' }))
    .send({});
  return until(
    async () => (await request(app).get(path(ROUTES.run, { run: (body as RunInfo).id }))).body as RunInfo,
    ({ state, files }) => state === 'done' && files.every(({ proof }) => proof !== null),
  );
}

describe('a sweep', () => {
  it('removes content that nothing refers to, once its time of grace is over, and no other', async () => {
    const { store, db } = server.services;
    const [lost, fresh] = [await store.put(Buffer.from('lost')), await store.put(Buffer.from('fresh'))];
    const [drawing] = await db.select().from(drawings);
    age(lost);
    age(drawing!.hash);
    age(drawing!.miniature!);
    expect(await sweepNow()).toMatchObject({ contents: 1, bytes: 4 });
    expect([lost, fresh, drawing!.hash, drawing!.miniature!].map(isThere)).toEqual([false, true, true, true]);
  });

  it('leaves alone what somebody asks for again, however old it is', async () => {
    const { store } = server.services;
    const asked = await store.put(Buffer.from('asked for'));
    age(asked);
    expect(await store.has(asked)).toBe(true);
    age(await store.put(Buffer.from('put again')));
    const again = await store.put(Buffer.from('put again'));
    expect(await sweepNow()).toMatchObject({ contents: 0 });
    expect([asked, again].map(isThere)).toEqual([true, true]);
    // Also where that happens after the sweep has looked at it.
    age(asked);
    const since = Date.now() - HOUR_MS;
    await store.has(asked);
    expect([await store.removeUnused(asked, since), isThere(asked)]).toEqual([false, true]);
  });

  it('waits for nobody: while a backup is made it does nothing', async () => {
    await onOneConnection(server.services.connection.pool, async (client) => {
      await lockSweep(client);
      expect(await sweepNow()).toBeUndefined();
      await unlockSweep(client);
    });
    expect(await sweepNow()).toBeDefined();
  });

  it('deletes runs that were removed long ago, and old ones where that is wanted, but none that was issued', async () => {
    server.work();
    const { db } = server.services;
    const [removed, old, issued] = [await publish(), await publish(), await publish()];
    const { project } = server;
    const destination = { kind: 'folder', folder: 'sent', onConflict: 'stop' };
    const sending = { run: removed.id };
    await request(server.app).post(path(ROUTES.deliveries, sending)).send({ destination }).expect(201);
    const [sent] = (await delivered(server.app, removed.id)).deliveries;
    const lastDay = await ensureRecipientPage(db, { deliveryId: sent!.id, days: 1, sealedPassword: null });
    expect(lastDay).toMatch(/^\d{4}-\d{2}-\d{2}$/);
    await addVisit(db, (await recipientPageOf(db, sent!.id))!, { what: 'opened' });
    const issue = { run: issued.id, date: '2026-11-25', purpose: 'For tender', recipients: ['Harbour board'] };
    await request(server.app).post(path(ROUTES.issues, { project })).send(issue).expect(201);
    const long = sql`now() - interval '31 days'`;
    await db
      .update(runs)
      .set({ removedAt: long as never })
      .where(eq(runs.id, removed.id));
    for (const { id } of [old, issued])
      await db
        .update(runs)
        .set({ createdAt: long as never })
        .where(eq(runs.id, id));
    expect(await sweepNow()).toMatchObject({ runs: 1 });
    expect(await db.$count(deliveries)).toBe(0);
    const left = async (): Promise<boolean[]> =>
      Promise.all([removed, old, issued].map(async ({ id }) => (await runById(db, id)) !== undefined));
    expect(await left()).toEqual([false, true, true]);
    expect(await sweepNow({ ...KEEP, runDays: 30 })).toMatchObject({ runs: 1 });
    expect(await left()).toEqual([false, false, true]);
    // Its files are there, since the issued one has the same.
    expect(issued.files.map(({ sha256 }) => isThere(sha256))).not.toContain(false);
  });

  it('deletes results in between that nobody uses, and content with them; used ones stay', async () => {
    const { db, store } = server.services;
    const [unused, used] = [await store.put(Buffer.from('unused')), await store.put(Buffer.from('used'))];
    const at = sql`now() - interval '40 days'`;
    const rows = [
      { kind: 'page' as const, key: 'unused', hash: unused, usedAt: at as never },
      { kind: 'page' as const, key: 'used', hash: used, usedAt: at as never },
    ];
    await db.insert(artifacts).values(rows);
    expect(await findArtifact(db, 'page', 'used')).toBe(used);
    for (const hash of [unused, used]) age(hash);
    expect(await sweepNow()).toMatchObject({ artifacts: 1, contents: 1 });
    expect([unused, used].map(isThere)).toEqual([false, true]);
  });

  it('deletes projects and drawings that were removed long ago, and nothing that is still shown', async () => {
    const { db } = server.services;
    const { app, project } = server;
    const other = await emptyProject(server, 'Given up');
    const line = '0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nA\n10\n0\n20\n0\n11\n9\n21\n9\n0\nENDSEC\n0\nEOF\n';
    const added = await request(app)
      .post(path(ROUTES.drawings, { project: other }))
      .attach('file', Buffer.from(line), 'gone.dxf');
    expect(added.status).toBe(201);
    const info = (await request(app).get(path(ROUTES.project, { project }))).body as ProjectInfo;
    const shown = info.drawings[0]!.id;
    const long = sql`now() - interval '31 days'`;
    await db
      .update(projects)
      .set({ removedAt: long as never })
      .where(eq(projects.id, other));
    await db
      .update(drawings)
      .set({ removedAt: long as never })
      .where(eq(drawings.id, shown));
    expect(await sweepNow()).toMatchObject({ projects: 1, drawings: 1 });
    const left = await db.select({ id: drawings.id }).from(drawings);
    expect(left.map(({ id }) => id)).toContain(shown);
    await db.update(drawings).set({ removedAt: null }).where(eq(drawings.id, shown));
  });
});

describe('a scrub', () => {
  it('finds content that is no longer what its hash says', async () => {
    const { store } = server.services;
    expect((await scrub(store)).damaged).toEqual([]);
    const hash = await store.put(Buffer.from('whole'));
    writeFileSync(contentPath(server, hash), 'wh0le');
    const { contents, damaged } = await scrub(store);
    expect([damaged, contents > 10]).toEqual([[hash], true]);
  });
});
