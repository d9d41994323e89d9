import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { parseArgs } from 'node:util';
import {
  readRenameTable,
  relinkPlan,
  type LinkedFile,
  type Problem,
  type RelinkPlan,
  type RenameRule,
} from '@folvex/core';
import { linksIn, relinked } from '@folvex/core/foreign';
import { sha256, WholeFile } from '@folvex/press';
import { DONE, STOPPED, UNREADABLE } from './outcomes';

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
export async function relinkFolder(asked: RelinkArguments): Promise<number> {
  const { folder, out, rename, rule } = asked;
  if (relative(folder, out) === '') {
    console.error('Choose another folder for the mended files than theirs.');
    return UNREADABLE;
  }
  const given = givenBy(asked);
  if (typeof given === 'string') {
    console.error(given);
    return UNREADABLE;
  }
  const problems: Problem[] = [];
  const files: LinkedFile[] = [];
  for (const path of given.paths) {
    const found = await linksIn(readFileSync(join(folder, path)), path);
    if (!found.ok) problems.push(found.problem);
    files.push({ path, targets: found.ok ? found.value : [] });
  }
  const plan = relinkPlan(files, { rule, table: given.table, rename });
  for (const clash of plan.clashes) {
    const sentence = `Two files would be called ${clash}; change the rule.`;
    problems.push({ code: 'relink.clash', sentence, place: {} });
  }
  if (plan.clashes.length === 0) problems.push(...(await writeMended(plan, folder, out)));
  for (const { code, sentence } of problems) console.error(`${code}: ${sentence}`);
  if (plan.clashes.length > 0) return STOPPED;
  for (const { file, target, state, to } of plan.links) {
    if (state !== 'works' || to !== undefined) console.log(`${state} ${file}: ${target}${to ? ` -> ${to}` : ''}`);
  }
  const dangling = plan.links.filter(({ state }) => state === 'dangling').length;
  console.log(`${plan.files.length} files, ${plan.links.length} links, ${dangling} dangling`);
  return dangling > 0 || problems.length > 0 ? STOPPED : DONE;
}

/** The PDFs below a folder, and the table of names; or why they cannot be read. */
function givenBy({ folder, table }: RelinkArguments): { paths: string[]; table: [string, string][] } | string {
  try {
    const paths = readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((path) => /\.pdf$/i.test(path))
      .map((path) => path.split(sep).join('/'))
      .sort();
    return { paths, table: table === undefined ? [] : readRenameTable(readFileSync(table, 'utf8')) };
  } catch (error) {
    return `${(error as Error).message}; name a folder of PDFs, and a table that is there.`;
  }
}

/** Writes every file of a plan, whole or not at all. What is there already and differs stays, and is told. */
async function writeMended(plan: RelinkPlan, folder: string, out: string): Promise<Problem[]> {
  const problems: Problem[] = [];
  for (const { from, to } of plan.files) {
    const links = plan.links.filter((link) => link.file === from && link.to !== undefined);
    const changes = new Map(links.map((link) => [link.target, link.to!]));
    const bytes = readFileSync(join(folder, from));
    const made = changes.size > 0 ? await relinked(bytes, from, changes) : undefined;
    const target = join(out, to);
    const file = new WholeFile(dirname(target));
    file.write(made?.ok ? made.value : bytes);
    const hash = file.sync();
    if (!existsSync(target)) file.moveTo(target);
    else {
      file.discard();
      if (sha256(readFileSync(target)) === hash) continue;
      const sentence = `${to} is there already and differs; choose another folder.`;
      problems.push({ code: 'file.exists', sentence, place: { file: to } });
    }
  }
  return problems;
}
