import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { parseArgs } from 'node:util';
import { readRenameTable, relinkPlan, type LinkedFile, type Problem, type RenameRule } from '@folvex/core';
import { linksIn, relinked } from '@folvex/core/foreign';

export const RELINK_USAGE = `folvex relink FOLDER --out DIR [--rename] [--table FILE.csv]
              [--find TEXT --replace TEXT] [--remove-first N] [--prefix TEXT] [--spaces TEXT] [--case upper|lower]
  mends links between PDFs whose files were renamed; with --rename, renames the files as well`;

interface RelinkArguments {
  folder: string;
  out: string;
  rename: boolean;
  rule: RenameRule;
  table: string | undefined;
}

/** The arguments of `folvex relink`; undefined for another command, a sentence for wrong ones. */
export function relinkArguments(args: readonly string[]): RelinkArguments | string | undefined {
  if (args[0] !== 'relink') return undefined;
  try {
    const { values, positionals } = parseArgs({
      args: args.slice(1),
      allowPositionals: true,
      options: {
        ...{
          out: { type: 'string' },
          table: { type: 'string' },
          find: { type: 'string' },
          replace: { type: 'string' },
        },
        ...{ 'remove-first': { type: 'string' }, prefix: { type: 'string' }, spaces: { type: 'string' } },
        ...{ case: { type: 'string' }, rename: { type: 'boolean', default: false } },
      },
    });
    const [folder, ...rest] = positionals;
    const { out, table, find, replace, prefix, spaces, rename } = values;
    if (!folder || !out || rest.length > 0) return RELINK_USAGE;
    const first = Number(values['remove-first'] ?? 0);
    if (!Number.isInteger(first) || first < 0) return '--remove-first takes how many characters to take off.';
    const letters = values.case;
    if (letters !== undefined && letters !== 'upper' && letters !== 'lower') return '--case takes upper or lower.';
    const rule: RenameRule = {
      ...(find !== undefined && { find }),
      ...(replace !== undefined && { replace }),
      ...(first > 0 && { removeFirst: first }),
      ...(prefix !== undefined && { prefix }),
      ...(spaces !== undefined && { spaces }),
      ...(letters !== undefined && { letters }),
    };
    return { folder, out, rename, rule, table };
  } catch (error) {
    return `${(error as Error).message}\n\n${RELINK_USAGE}`;
  }
}

/** Mends the links of a folder of PDFs into another folder; prints a line a link that changed or leads nowhere. */
export async function relinkFolder({ folder, out, rename, rule, table }: RelinkArguments): Promise<number> {
  let paths: string[];
  let rows: [string, string][];
  try {
    paths = readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((path) => /\.pdf$/i.test(path))
      .map((path) => path.split(sep).join('/'))
      .sort();
    rows = table === undefined ? [] : readRenameTable(readFileSync(table, 'utf8'));
  } catch (error) {
    console.error(`${(error as Error).message}; name a folder of PDFs, and a table that is there.`);
    return 2;
  }
  const problems: Problem[] = [];
  const files: LinkedFile[] = [];
  for (const path of paths) {
    const found = await linksIn(readFileSync(join(folder, path)), path);
    if (!found.ok) problems.push(found.problem);
    files.push({ path, targets: found.ok ? found.value : [] });
  }
  const plan = relinkPlan(files, { rule, table: rows, rename });
  for (const clash of plan.clashes) {
    const sentence = `Two files would be called ${clash}; change the rule.`;
    problems.push({ code: 'relink.clash', sentence, place: {} });
  }
  for (const { code, sentence } of problems) console.error(`${code}: ${sentence}`);
  if (plan.clashes.length > 0 || relative(folder, out) === '') {
    if (relative(folder, out) === '') console.error('Choose another folder for the mended files than theirs.');
    return 1;
  }
  for (const { from, to } of plan.files) {
    const changes = new Map(
      plan.links.flatMap((link) =>
        link.file === from && link.to !== undefined ? [[link.target, link.to] as const] : [],
      ),
    );
    const bytes = readFileSync(join(folder, from));
    const made = changes.size === 0 ? ({ ok: true, value: bytes } as const) : await relinked(bytes, from, changes);
    mkdirSync(dirname(join(out, to)), { recursive: true });
    writeFileSync(join(out, to), made.ok ? made.value : bytes);
  }
  for (const { file, target, state, to } of plan.links) {
    if (state !== 'works' || to !== undefined) console.log(`${state} ${file}: ${target}${to ? ` -> ${to}` : ''}`);
  }
  const dangling = plan.links.filter(({ state }) => state === 'dangling').length;
  console.log(`${plan.files.length} files, ${plan.links.length} links, ${dangling} dangling`);
  return dangling > 0 || problems.length > 0 ? 1 : 0;
}
