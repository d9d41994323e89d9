import { readdirSync, readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import request from 'supertest';
import { path, ROUTES, type EditAnswer, type ProjectInfo, type RunInfo } from '@folvex/contract';
import { migrateDatabase, type Connection } from '../../src/data/database';
import { packagesOf } from '../../src/data/projects';
import { upgradeStored } from '../../src/data/upgrade-stored';
import type { Store } from '../../src/files/store';
import { STORED_KINDS, upgraded, type StoredKind } from '../../src/model/stored-kinds';
import { MIGRATIONS, until, useServer } from '../support/harness';

const fixture = (name: string): Buffer => readFileSync(new URL(`fixtures/${name}`, import.meta.url));

/**
 * A database as the first version left it: the demo with a sheet, the settings and a package edited, a run delivered
 * and issued. Its drawings lie in the store; nothing else does.
 */
async function firstVersion({ pool }: Connection, store: Store): Promise<string> {
  const dump = gunzipSync(fixture('first-version.sql.gz')).toString();
  const statements = dump.split('\n').filter((line) => !line.startsWith('\\') && !line.startsWith('--'));
  const client = await pool.connect();
  try {
    await client.query(statements.join('\n'));
    // The queue was empty, and the dump has only its tables: it is made again.
    await client.query('drop schema pgboss cascade');
  } finally {
    client.release(true);
  }
  for (const name of readdirSync(new URL('fixtures/drawings/', import.meta.url))) {
    await store.put(gunzipSync(fixture(`drawings/${name}`)));
  }
  const { rows } = await pool.query<{ id: string }>('select id from public.projects');
  return rows[0]!.id;
}

describe('a database of the first version', () => {
  const server = useServer({ load: firstVersion });
  const info = async (): Promise<ProjectInfo> =>
    (
      await request(server.app)
        .get(path(ROUTES.project, { project: server.project }))
        .expect(200)
    ).body as ProjectInfo;

  it('opens with everything in it, as it is called today', async () => {
    const { sheets, packages, project, runs, drawings } = await info();
    expect([sheets.length, packages.length, drawings.length, project.client]).toEqual([...[10, 2, 5], 'Edited client']);
    expect(packages[0]).toMatchObject({
      notes: 'Edited notes',
      extraFormats: { formats: ['svg'], dpi: 150 },
      destinations: [{ kind: 'folder', folder: 'permit', onConflict: 'both' }],
    });
    expect(packages[0]).not.toHaveProperty('beside');
    const told = JSON.parse(fixture('first-version.json').toString()) as { id: string; files: unknown[] };
    expect(runs).toMatchObject([{ id: told.id, state: 'done', files: told.files }]);
  });

  it('has all its edits to undo and to redo', async () => {
    const step = async (way: 'undo' | 'redo'): Promise<EditAnswer> =>
      (
        await request(server.app)
          .post(path(ROUTES[way], { project: server.project }))
          .expect(200)
      ).body as EditAnswer;
    const { pack } = await step('undo');
    expect(pack).not.toHaveProperty('extraFormats');
    expect((await step('undo')).settings!.project.client).toBe('Tern Quay Harbour Trust');
    expect((await step('undo')).sheets[0]!.title).not.toBe('Edited title');
    await request(server.app)
      .post(path(ROUTES.undo, { project: server.project }))
      .expect(409);
    await step('redo');
    await step('redo');
    expect((await step('redo')).pack).toMatchObject({ extraFormats: { formats: ['svg'], dpi: 150 } });
  });

  it('publishes its old run again, with the same files', async () => {
    server.work();
    const told = JSON.parse(fixture('first-version.json').toString()) as { id: string; files: { path: string }[] };
    const { body } = await request(server.app)
      .post(path(ROUTES.runAgain, { run: told.id }))
      .expect(201);
    const again = await until(
      async () => (await request(server.app).get(path(ROUTES.run, { run: (body as RunInfo).id }))).body as RunInfo,
      ({ state }) => state === 'done' || state === 'failed',
    );
    expect(again).toMatchObject({ state: 'done', problem: null });
    expect(again.files.map((file) => file.path)).toEqual(told.files.map((file) => file.path));
  });

  it('is left as it is when it is opened a second time', async () => {
    const { connection } = server.services;
    await migrateDatabase(connection, MIGRATIONS);
    expect(await upgradeStored(connection.pool)).toBe(0);
  });

  it('tells a document that is damaged, or of a version that it does not know', async () => {
    const { db, pool } = server.services.connection;
    const change = (document: object) => pool.query('update packages set pack = $1', [JSON.stringify(document)]);
    const { rows } = await pool.query<{ id: string; pack: object }>('select id, pack from packages');
    await change({ version: STORED_KINDS.package.version, value: { id: 'p' } });
    await expect(packagesOf(db, server.project)).rejects.toThrow('a stored package is damaged');
    await change({ version: 999, value: {} });
    await expect(packagesOf(db, server.project)).rejects.toThrow('a stored package has version 999');
    for (const { id, pack } of rows) {
      await pool.query('update packages set pack = $1 where id = $2', [JSON.stringify(pack), id]);
    }
    expect(await packagesOf(db, server.project)).toHaveLength(rows.length);
  });

  it('that a newer Folvex opened is refused by this one, with a sentence', async () => {
    const { connection } = server.services;
    await connection.pool.query(
      `insert into drizzle.__drizzle_migrations (hash, created_at) values ('from the future', 9999999999999)`,
    );
    await expect(migrateDatabase(connection, MIGRATIONS)).rejects.toThrow(
      'this database was last opened by a newer Folvex',
    );
  });
});

describe('the versions of stored documents', () => {
  const kinds = Object.keys(STORED_KINDS) as StoredKind[];

  it.each(kinds)('of kind "%s" have a step for each but the first', (kind) => {
    expect(STORED_KINDS[kind].upgrades).toHaveLength(STORED_KINDS[kind].version - 1);
  });

  it('upgrade a package wherever it stands', () => {
    const old = { id: 'p', beside: { formats: ['png'] } };
    const today = { id: 'p', extraFormats: { formats: ['png'] } };
    expect(upgraded('package', 1, old)).toEqual(today);
    expect(upgraded('package edit', 1, { before: null, after: old })).toEqual({ before: null, after: today });
    expect(upgraded('run input', 1, { sheets: [], package: old })).toEqual({ sheets: [], package: today });
    expect(upgraded('package', STORED_KINDS.package.version, today)).toBe(today);
  });

  it('upgrade a run that was delivered to a folder', () => {
    const destination = { folder: '[project.number]', there: 'both' };
    expect(upgraded('run input', 1, { package: { id: 'p', destination }, folder: '2617' })).toEqual({
      package: { id: 'p', destinations: [{ kind: 'folder', folder: '[project.number]', onConflict: 'both' }] },
      destinations: [{ kind: 'folder', folder: '2617', onConflict: 'both' }],
    });
    const sent = { kind: 'server', server: 's', folder: 'in', onConflict: 'stop' };
    expect(upgraded('run input', 3, { package: { id: 'p', destination: sent }, destination: sent })).toEqual({
      package: { id: 'p', destinations: [sent] },
      destinations: [sent],
    });
    // A package whose destination was chosen later does not make its earlier runs delivered.
    expect(upgraded('run input', 2, { package: { id: 'p' } })).toEqual({ package: { id: 'p' } });
  });
});
