import { sameValue, type ProjectFacts, type ProjectSettings } from '@folvex/core';

/** Words for each setting: for one item of it, and for all of it. */
const WORDS: Readonly<Record<keyof ProjectFacts | 'groups' | 'recipes', readonly [one: string, all: string]>> = {
  number: ['project number', 'project number'],
  name: ['project name', 'project name'],
  client: ['client', 'client'],
  fields: ['project field', 'project fields'],
  titleBlocks: ['title block', 'title blocks'],
  sheetFields: ['sheet field', 'sheet fields'],
  textStyles: ['text style', 'text styles'],
  plotters: ['plotter', 'plotters'],
  plotter: ['chosen plotter', 'chosen plotter'],
  papers: ['paper', 'papers'],
  people: ['person', 'people'],
  inboxes: ['inbox', 'inboxes'],
  versionMark: ['version mark', 'version mark'],
  typefaces: ['typeface', 'typefaces'],
  penSchedules: ['pen schedule', 'pen schedules'],
  checks: ['weights of checks', 'weights of checks'],
  namings: ['naming rule', 'naming rules'],
  exchanges: ['exchange setting', 'exchange settings'],
  groups: ['group', 'groups'],
  recipes: ['recipe', 'recipes'],
};

/** For people, behind "Undo": what differs, by name where it is one thing of a list (`recipe All black`). */
export function settingsEditInWords(before: ProjectSettings, after: ProjectSettings): string {
  const was = valuesOf(before);
  const is = valuesOf(after);
  const keys = (Object.keys(WORDS) as (keyof typeof WORDS)[]).filter((key) => !sameValue(was[key], is[key]));
  return keys.map((key) => changeInWords(key, was[key], is[key])).join(' and ') || 'settings';
}

function valuesOf({ project, groups, recipes }: ProjectSettings): Readonly<Record<string, unknown>> {
  return { ...project, groups, recipes };
}

function changeInWords(key: keyof typeof WORDS, was: unknown, is: unknown): string {
  const [one, all] = WORDS[key];
  const [before, after] = [namedIn(was), namedIn(is)];
  if (!before || !after) return all;
  const changed = new Set(
    [...before.keys(), ...after.keys()].filter((id) => !sameValue(before.get(id), after.get(id))),
  );
  // None: they were only reordered.
  if (changed.size !== 1) return all;
  const [id] = changed;
  const { name } = (after.get(id!) ?? before.get(id!))!;
  return name ? `${one} ${name}` : all;
}

/** The items of a list by id; undefined where the value is not a list of named items. */
function namedIn(value: unknown): ReadonlyMap<string, { name: string }> | undefined {
  if (value === undefined) return new Map();
  if (!Array.isArray(value)) return undefined;
  const things = value as { id?: string; name?: string }[];
  if (things.some((thing) => typeof thing !== 'object' || thing === null || !thing.name)) return undefined;
  return new Map(things.map((thing) => [thing.id ?? thing.name!, { ...thing, name: thing.name! }]));
}
