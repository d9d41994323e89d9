import type pg from 'pg';

/** A SHA-256 in hexadecimal digits, as PostgreSQL's regular expressions have it. */
const HASH = '[0-9a-f]{64}';

/**
 * Every SHA-256 that stands anywhere in the tables, as a column or within a document: what is in the store under another
 * is referred to by nothing. Tables that are added later are looked through too. Hashes of other things, such as the keys
 * of artifacts, come along and do no harm.
 */
export async function referencedHashes(client: Pick<pg.ClientBase, 'query'>): Promise<Set<string>> {
  const { rows: columns } = await client.query<{ source: string }>(
    `select format('select (regexp_matches(%I::text, %L, %L))[1] as hash from %I.%I', column_name, '${HASH}', 'g', table_schema, table_name) as source
     from information_schema.columns where table_schema = 'public' and data_type in ('text', 'jsonb', 'json')`,
  );
  const found = new Set<string>();
  for (const { source } of columns) {
    const { rows } = await client.query<{ hash: string }>(`select distinct hash from (${source}) as found`);
    for (const { hash } of rows) found.add(hash);
  }
  return found;
}
