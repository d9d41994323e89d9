import { sameValue, withoutPasswords, type ProjectFacts, type ProjectSettings } from '@folvex/core';
import type { SettingsChange } from './payloads';

type Change = Omit<SettingsChange, 'was'>;

/** Settings with some of them changed; lists and texts that may be absent are not kept where they are empty. */
export function settingsWith(settings: ProjectSettings, { project = {}, ...lists }: Change): ProjectSettings {
  const facts = Object.entries({ ...settings.project, ...project }).filter(
    ([key, value]) => !(Array.isArray(value) && value.length === 0) && !(key === 'plotter' && value === ''),
  );
  const recipes = (lists.recipes ?? settings.recipes).map(withoutPasswords);
  return { ...settings, ...lists, recipes, project: Object.fromEntries(facts) as unknown as ProjectFacts };
}

/** What makes the settings that somebody saw into others; it is refused where somebody else changed the same meanwhile. */
export function settingsChange(before: ProjectSettings, after: ProjectSettings): SettingsChange {
  const keys = Object.keys({ ...before.project, ...after.project }) as (keyof ProjectFacts)[];
  const changed = keys.filter((key) => !sameValue(before.project[key], after.project[key]));
  const facts = changed.map((key) => [key, after.project[key] ?? emptyLike(before.project[key])] as const);
  const seen = changed.map((key) => [key, before.project[key] ?? null] as const);
  const lists = (['groups', 'recipes'] as const).filter((list) => !sameValue(before[list], after[list]));
  return {
    ...(changed.length > 0 && { project: Object.fromEntries(facts) as Partial<ProjectFacts> }),
    ...Object.fromEntries(lists.map((list) => [list, after[list]])),
    was: {
      ...(changed.length > 0 && { project: Object.fromEntries(seen) as Partial<ProjectFacts> }),
      ...Object.fromEntries(lists.map((list) => [list, before[list]])),
    },
  };
}

/** True where a change changes nothing. */
export function isEmptySettingsChange({ was: _, ...change }: SettingsChange): boolean {
  return Object.keys(change).length === 0;
}

/** Stands for "removed". */
function emptyLike(value: unknown): unknown {
  if (Array.isArray(value)) return [];
  return typeof value === 'object' && value !== null ? {} : '';
}
