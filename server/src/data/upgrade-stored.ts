import type pg from 'pg';
import { STORED_KINDS, upgraded, type StoredKind } from '../model/stored-kinds';
import { inTransaction } from './database';
import { storableJson } from './storable';
import type { StoredDocument } from './stored';

/** The columns that hold documents of each kind. */
const COLUMNS: readonly (readonly [kind: StoredKind, table: string, column: string])[] = [
  ['project facts', 'projects', 'facts'],
  ['recipes', 'projects', 'recipes'],
  ['group settings', 'groups', 'sheets'],
  ['drawing facts', 'drawings', 'facts'],
  ['windows', 'drawings', 'windows'],
  ['sheet', 'sheets', 'sheet'],
  ['package', 'packages', 'pack'],
  ['sheet edits', 'edits', 'changes'],
  ['settings edit', 'edits', 'settings'],
  ['package edit', 'edits', 'pack'],
  ['run input', 'runs', 'input'],
  ['issue', 'issues', 'issue'],
];

/** Brings every stored document up to date, all in one transaction; returns how many were of an older version. */
export async function upgradeStored(pool: pg.Pool): Promise<number> {
  return inTransaction(pool, async ({ client }) => {
    let count = 0;
    for (const [kind, table, column] of COLUMNS) {
      const { version } = STORED_KINDS[kind];
      const { rows } = await client.query<{ row: string; document: StoredDocument }>(
        `select ctid::text as row, ${column} as document from ${table} where (${column}->>'version')::int < $1 for update`,
        [version],
      );
      for (const { row, document } of rows) {
        const value = upgraded(kind, document.version, document.value);
        // The row was locked above, so that its place stays what it is until it is written.
        const text = storableJson({ version, value });
        await client.query(`update ${table} set ${column} = $1::jsonb where ctid = $2::tid`, [text, row]);
      }
      count += rows.length;
    }
    return count;
  });
}
