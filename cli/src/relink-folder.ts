import { readdirSync, readFileSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import {
  readRenameTable,
  relinkPlan,
  type LinkedFile,
  type Problem,
  type RelinkPlan,
  type RenameRule,
} from '@folvex/core';
import { linksIn, relinked } from '@folvex/core/foreign';
import { deliver, folderDestination, WholeFile } from '@folvex/press';
import { DONE, STOPPED, UNREADABLE } from './console';
import { withWorkFolder } from './work-folder';

export interface RelinkArguments {
  folder: string;
  out: string;
  rename: boolean;
  rule: RenameRule;
  table: string | undefined;
}

/** Repairs the links of a folder of PDFs into another folder; prints a line a link that changed or leads nowhere. */
export async function relinkFolder(asked: RelinkArguments): Promise<number> {
  const { folder, out, rename, rule } = asked;
  if (relative(folder, out) === '') {
    console.error('Choose another folder for the repaired files: this one holds the originals.');
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
  if (plan.clashes.length === 0) problems.push(...(await writeRepaired(plan, folder, out)));
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

/** Writes every file of a plan, whole or not at all. A file that is there already and differs stays, and is reported. */
async function writeRepaired(plan: RelinkPlan, folder: string, out: string): Promise<Problem[]> {
  const destination = folderDestination(out);
  const unusable = await destination.test();
  if (unusable) return [unusable];
  return withWorkFolder(
    out,
    async () => undefined,
    async (work) => {
      const problems: Problem[] = [];
      for (const { from, to } of plan.files) {
        const links = plan.links.filter((link) => link.file === from && link.to !== undefined);
        const changes = new Map(links.map((link) => [link.target, link.to!]));
        const bytes = readFileSync(join(folder, from));
        const repaired = changes.size > 0 ? await relinked(bytes, from, changes) : undefined;
        const file = new WholeFile(work);
        file.write(repaired?.ok ? repaired.value : bytes);
        const hash = file.sync();
        const delivered = await deliver(destination, { from: file.temporary, hash, path: to }, 'stop');
        file.discard();
        if (!('problem' in delivered)) continue;
        const sentence = `${to} is there already and differs; choose another folder.`;
        const differs = delivered.problem.code === 'destination.conflict';
        problems.push(differs ? { code: 'file.exists', sentence, place: { file: to } } : delivered.problem);
      }
      return problems;
    },
  );
}
