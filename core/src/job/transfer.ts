import type { SheetPackage } from '../package/model';
import type { Recipe } from '../recipe/recipe';
import { sameValue } from '../same';
import type { Group } from '../sheet/groups';
import type { ProjectFacts } from '../sheet/model';

/** What of a project is settings: may be taken over by another one. */
export interface ProjectSettings {
  project: ProjectFacts;
  groups: Group[];
  recipes: Recipe[];
}

/** Kinds of settings that go from project to project, in words. */
export const SETTING_KINDS = {
  titleBlocks: 'title block',
  textStyles: 'text style',
  sheetFields: 'sheet field',
  plotters: 'plotter',
  papers: 'paper',
  typefaces: 'typeface',
  penSchedules: 'pen schedule',
  namings: 'naming rules',
  exchanges: 'exchange setting',
  people: 'person',
  recipes: 'recipe',
  groups: 'group',
} as const;
export type SettingKind = keyof typeof SETTING_KINDS;

interface Item {
  /** Told apart by it, case-blind. */
  key: string;
  name: string;
  value: unknown;
}

/** A setting that another project offers. */
export interface SettingOffer {
  kind: SettingKind;
  key: string;
  name: string;
  /** `clash`: there is another one here under the same id; `same`: the very same is here. */
  state: 'new' | 'same' | 'clash';
}

/** A setting that was chosen; of a clash whether the one that is here gives way or both stay. */
export type ChosenSetting = Pick<SettingOffer, 'kind' | 'key'> & { clash?: 'replace' | 'both' };

/** Naming rules of packages are offered as kept ones under the package's name. */
export function withPackageNames(settings: ProjectSettings, packages: readonly SheetPackage[]): ProjectSettings {
  const kept = settings.project.namings ?? [];
  const fresh = packages
    .filter(({ id }) => !kept.some((one) => one.id === id))
    .map(({ id, name, names: { file, folder, bundle } }) => ({ id, name, file, folder, bundle }));
  return { ...settings, project: { ...settings.project, namings: [...kept, ...fresh] } };
}

/** Everything that one project can take over from another, by kind. */
export function settingOffers(from: ProjectSettings, to: ProjectSettings): SettingOffer[] {
  return (Object.keys(SETTING_KINDS) as SettingKind[]).flatMap((kind) => {
    const here = itemsOf(to, kind);
    return itemsOf(from, kind).map(({ key, name, value }): SettingOffer => {
      const known = here.find((item) => same(item.key, key));
      const state = !known ? 'new' : sameValue(known.value, value) ? 'same' : 'clash';
      return { kind, key, name, state };
    });
  });
}

/** The settings of a project with those chosen from another taken over. The ones given are not changed. */
export function copySettings(
  from: ProjectSettings,
  to: ProjectSettings,
  chosen: readonly ChosenSetting[],
): ProjectSettings {
  return chosen.reduce((settings, { kind, key, clash = 'replace' }) => {
    const wanted = itemsOf(from, kind).find((item) => same(item.key, key));
    if (!wanted) return settings;
    const here = itemsOf(settings, kind);
    const known = here.findIndex((item) => same(item.key, key));
    const values = here.map(({ value }) => value);
    if (known >= 0 && clash === 'replace') values[known] = wanted.value;
    else if (known < 0) values.push(wanted.value);
    else values.push(renamed(kind, wanted, here));
    return withValues(settings, kind, values);
  }, to);
}

function itemsOf(settings: ProjectSettings, kind: SettingKind): Item[] {
  if (kind === 'papers') {
    return (settings.project.papers ?? []).map((value) => ({ key: value.name, name: value.name, value }));
  }
  if (kind === 'sheetFields') {
    return (settings.project.sheetFields ?? []).map((value) => ({ key: value.name, name: value.caption, value }));
  }
  const list: readonly { id: string; name: string }[] =
    kind === 'recipes' || kind === 'groups' ? settings[kind] : (settings.project[kind] ?? []);
  return list.map((value) => ({ key: value.id, name: value.name, value }));
}

function withValues(settings: ProjectSettings, kind: SettingKind, values: unknown[]): ProjectSettings {
  if (kind === 'recipes' || kind === 'groups') return { ...settings, [kind]: values };
  return { ...settings, project: { ...settings.project, [kind]: values } };
}

/** The same setting under the next free id and name. */
function renamed(kind: SettingKind, { key, name, value }: Item, here: readonly Item[]): unknown {
  let count = 2;
  while (here.some((item) => same(item.key, `${key}-${count}`))) count++;
  const id = `${key}-${count}`;
  const words = `${name} (${count})`;
  const own = value as object;
  if (kind === 'papers') return { ...own, name: id };
  return kind === 'sheetFields' ? { ...own, name: id, caption: words } : { ...own, id, name: words };
}

function same(a: string, b: string): boolean {
  return a.toLowerCase() === b.toLowerCase();
}
