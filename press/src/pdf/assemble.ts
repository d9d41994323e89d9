import { createHash } from 'node:crypto';
import {
  matchesPattern,
  PdfDocument,
  relativePath,
  type DocumentFacts,
  type DocumentOptions,
  type Group,
  type LinkLook,
  type PdfTools,
  type PlannedFile,
  type ProjectFacts,
  type Protection,
  type Recipe,
  type Sheet,
  type SheetPackage,
  type SheetPart,
  type Sink,
} from '@folvex/core';

/** One file of a run: which it is, and where its pages come from. */
export interface AssemblyInput {
  project: ProjectFacts;
  package: SheetPackage;
  sheets: readonly Sheet[];
  /** All sheets of the package with the files that they go into: what links lead to. */
  plan?: { files: readonly PlannedFile[]; sheets: readonly Pick<Sheet, 'id' | 'number'>[] };
  groups?: readonly Pick<Group, 'id' | 'name'>[];
  recipe?: Partial<Recipe>;
  protection?: Protection;
  file: PlannedFile;
  /** SHA-256 of a sheet's packed part. */
  partHash(sheetId: string): string;
  /** The parts of a sheet, one a page; asked for one sheet at a time and not kept. */
  parts(sheetId: string): SheetPart[];
}

const PRODUCER = 'Folvex';

/** Puts the parts of a file together, page by page, into a sink. Returns its length in bytes and how many pages it has. */
export function assembleFile(input: AssemblyInput, tools: PdfTools, sink: Sink): { bytes: number; pages: number } {
  const sheets = input.file.sheets.flatMap((id) => input.sheets.find((sheet) => sheet.id === id) ?? []);
  const { recipe = {}, protection } = input;
  const options: DocumentOptions = {
    ...(recipe.version === 'A-2b' ? { archival: true } : recipe.version && { version: recipe.version }),
    ...(protection && { protection }),
    layers: layerStates(recipe),
    ...(recipe.turn && { turn: recipe.turn }),
    ...(recipe.opens && { opens: recipe.opens }),
    ...(recipe.bookmarks && { bookmarks: recipe.bookmarks }),
    ...(recipe.linearised && { linearised: true }),
    ...(recipe.links !== 'none' && { links: { target: targetsOf(input), look: lookOf(recipe.links) } }),
  };
  const document = new PdfDocument(sink, tools, factsOf(input, sheets), options);
  let pages = 0;
  const placed = new Set<string>();
  for (const { id, number, title, group } of sheets) {
    const name = input.groups?.find((one) => one.id === group)?.name ?? '';
    const parts = input.parts(id);
    // Links lead to the first of several copies.
    const first = !placed.has(id);
    placed.add(id);
    parts.forEach((part, i) => {
      const shown = parts.length > 1 ? `${number} (${i + 1}/${parts.length})` : number;
      const content = `${input.partHash(id)} ${i}`;
      document.addPage(part, { number: shown, title, group: name, content, ...(first && i === 0 && { key: id }) });
    });
    pages += parts.length;
  }
  return { bytes: document.finish(), pages };
}

function layerStates({ layersByView, layersLocked = [], layersPrintOnly = [], version }: Partial<Recipe>) {
  const any = (patterns: readonly string[]) => {
    return ({ name }: { name: string }): boolean => patterns.some((pattern) => matchesPattern(pattern, name));
  };
  return {
    ...(layersByView && { byView: true }),
    ...(layersLocked.length && { locked: any(layersLocked) }),
    // What is for print alone needs what files to keep may not have (ISO 19005-2, 6.9).
    ...(layersPrintOnly.length && version !== 'A-2b' && { printOnly: any(layersPrintOnly) }),
  };
}

function lookOf(links: Recipe['links']): LinkLook {
  return links === 'underlined' || links === 'tinted' ? links : 'none';
}

/** Where the numbers of sheets lead: to a page of this file, or to that of another one of the run. */
function targetsOf({ plan, file, sheets }: AssemblyInput): NonNullable<DocumentOptions['links']>['target'] {
  const byNumber = new Map((plan?.sheets ?? sheets).map(({ number, id }) => [number.toLowerCase(), id]));
  const files = (plan?.files ?? [file]).filter(({ format }) => !format);
  return (names, from) => {
    const id = byNumber.get(names.toLowerCase());
    if (id === undefined || id === from.key) return undefined;
    if (file.sheets.includes(id)) return { key: id };
    const other = files.find((one) => one.sheets.includes(id));
    return other && { kind: 'file', path: relativePath(file.path, other.path), page: other.sheets.indexOf(id) };
  };
}

/** The metadata of the file; all of it follows from its content, so that the same input gives the same bytes. */
function factsOf(input: AssemblyInput, sheets: readonly Sheet[]): DocumentFacts {
  const { project, package: pack } = input;
  const only = new Set(sheets).size === 1 ? sheets[0] : undefined;
  const title = only ? `${only.number} ${only.title}`.trim() : `${project.name} - ${pack.name}`;
  const date =
    sheets
      .map((sheet) => sheet.revision?.date ?? '')
      .sort()
      .at(-1) ?? '';
  const hash = createHash('sha256').update(title);
  for (const sheet of sheets) hash.update(input.partHash(sheet.id));
  return {
    title,
    author: project.fields['owner'] ?? '',
    producer: PRODUCER,
    date,
    id: hash.digest('hex').slice(0, 32).toUpperCase(),
  };
}
