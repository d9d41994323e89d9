import { sql } from 'drizzle-orm';
import { findArtifacts, saveArtifacts } from '../../src/data/artifacts';
import { connect, isStatementTimeout } from '../../src/data/database';
import { storableJson } from '../../src/data/storable';
import { useServer } from '../support/harness';

const server = useServer();

describe('JSON for the database', () => {
  const strange = { name: 'a\0b', half: '\ud800', other: '\udc00x', whole: '😀', escaped: '\\u0000 \\ud800', 'k\0': 1 };

  it('has neither NUL nor halves of characters, and all else as it was', async () => {
    const cleaned = {
      name: 'a\ufffdb',
      half: '\ufffd',
      other: '\ufffdx',
      whole: '😀',
      escaped: '\\u0000 \\ud800',
      'k\ufffd': 1,
    };
    expect(JSON.parse(storableJson(strange))).toEqual(cleaned);
    // PostgreSQL takes it, which it does not of the value as it is.
    const stored = (text: string) => server.services.db.execute<{ v: unknown }>(sql`select ${text}::jsonb as v`);
    expect((await stored(storableJson(strange))).rows[0]!.v).toEqual(cleaned);
    await expect(stored(JSON.stringify(strange))).rejects.toThrow();
  });
});

it('more rows than one statement takes are inserted in pieces', async () => {
  const { db } = server.services;
  const made = Array.from({ length: 20_000 }, (_, i) => ({
    kind: 'part' as const,
    key: `many ${i}`,
    hash: 'a'.repeat(64),
  }));
  await saveArtifacts(db, made);
  const found = await findArtifacts(db, 'part', ['many 0', 'many 19999', 'many 20000']);
  expect([...found.keys()].sort()).toEqual(['many 0', 'many 19999']);
});

it('a statement that takes too long is ended', async () => {
  const { db, close } = connect(server.databaseUrl, { statementMs: 50 });
  try {
    const error: unknown = await db.execute(sql`select pg_sleep(600)`).catch((thrown: unknown) => thrown);
    expect(isStatementTimeout(error)).toBe(true);
  } finally {
    await close();
  }
});
