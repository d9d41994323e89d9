import { matchesPattern } from '../drawing/patterns';
import type { ProjectFacts, Sheet } from '../sheet/model';
import { indexPages, dividerPage, spacePage } from './extra-pages';
import type { ExtraPage, PageOptions, SheetPackage } from './model';
import type { Recipe } from '../recipe/recipe';
import { compareNumbers } from './order';

/** A package as it will be published: nothing in it is left to rules. */
export interface ResolvedPackage {
  /** The pages in their order, those left out this time not among them. */
  package: SheetPackage;
  /** The sheets of the project, and those that the package adds. */
  sheets: Sheet[];
}

/**
 * Applies the rules of a package to the project as it is now: takes in the sheets that its rule finds, has pages stay behind
 * those that they are to follow, leaves out what is skipped, and makes the pages that it adds.
 */
export function resolvePackage(pack: SheetPackage, sheets: readonly Sheet[], project: ProjectFacts): ResolvedPackage {
  const order = followOrder(withMembers(pack, sheets), pack.after ?? {});
  const published = order.filter((id) => !pack.pages?.[id]?.skip);
  const extras = new Map((pack.extras ?? []).map((extra) => [extra.id, extra]));
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  const made: Sheet[] = [];
  const whole = published.flatMap((id, at) => {
    const extra = extras.get(id);
    if (!extra) return [id];
    const pages = pagesOf(extra, published.slice(at + 1), byId, pack, project);
    made.push(...pages);
    return pages.map((page) => page.id);
  });
  return { package: { ...pack, order: whole }, sheets: [...sheets, ...made] };
}

/** The order, followed by the sheets that the rule finds and that are not in it yet, by number. */
export function withMembers({ order, members }: SheetPackage, sheets: readonly Sheet[]): string[] {
  if (!members?.groups.length) return order;
  const inside = new Set(order);
  const stays = ({ number, title }: Sheet): boolean =>
    (members.without ?? []).some((pattern) => matchesPattern(pattern, number) || matchesPattern(pattern, title));
  const found = sheets
    .filter((sheet) => members.groups.includes(sheet.group) && !inside.has(sheet.id) && !stays(sheet))
    .sort((a, b) => compareNumbers(a.number, b.number));
  return [...order, ...found.map(({ id }) => id)];
}

/** An order in which each page that is to follow another one does; pages that would follow themselves stay. */
export function followOrder(order: readonly string[], after: Readonly<Record<string, string>>): string[] {
  const held = new Set(order);
  const follows = (id: string): string | undefined => (held.has(after[id] ?? '') ? after[id] : undefined);
  const loops = (id: string): boolean => {
    const seen = new Set([id]);
    for (let at = follows(id); at !== undefined; at = follows(at)) {
      if (seen.has(at)) return true;
      seen.add(at);
    }
    return false;
  };
  const behind = new Map<string, string[]>();
  const free = order.filter((id) => {
    const leader = follows(id);
    if (leader === undefined || loops(id)) return true;
    behind.set(leader, [...(behind.get(leader) ?? []), id]);
    return false;
  });
  const withFollowers = (id: string): string[] => [id, ...(behind.get(id) ?? []).flatMap(withFollowers)];
  return free.flatMap(withFollowers);
}

/** A recipe as it prints one page of a package. */
export function recipeOfPage(recipe: Recipe, { pages }: Pick<SheetPackage, 'pages'>, id: string): Recipe {
  const { colour, pictureDpi }: PageOptions = pages?.[id] ?? {};
  return colour || pictureDpi ? { ...recipe, ...(colour && { colour }), ...(pictureDpi && { pictureDpi }) } : recipe;
}

function pagesOf(
  extra: ExtraPage,
  following: readonly string[],
  byId: ReadonlyMap<string, Sheet>,
  pack: SheetPackage,
  project: ProjectFacts,
): Sheet[] {
  if (extra.kind === 'space') return [spacePage(extra)];
  const sheets = following.flatMap((id) => byId.get(id) ?? []);
  // As large as what comes behind; a layout's paper is not known here.
  const paper = sheets.find((sheet) => sheet.paper)?.paper ?? { name: 'A3', orientation: 'landscape' as const };
  return extra.kind === 'divider' ? [dividerPage(extra, paper)] : indexPages(extra, paper, sheets, pack, project);
}
