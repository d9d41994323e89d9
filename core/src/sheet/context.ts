import type { NoteTarget } from './notes/model';
import type { ProjectFacts, Sheet } from './model';
import type { PrintedStamp } from './stamps';
import { showsPageNumber, type PagePlace } from './title/fields';

/** What a mark shows of what it refers to. */
export interface MarkWords {
  sheet: string;
  view: string;
}

/** What a sheet shows of the sheets and the package around it. */
export interface SheetContext {
  /** Where its title block shows it. */
  page?: PagePlace;
  /** By `markKey`; what is not there any more is missing. */
  marks?: Record<string, MarkWords>;
  /** What its package prints over it. */
  stamps?: PrintedStamp[];
}

export function markKey({ sheet, view }: NoteTarget): string {
  return `${sheet}\n${view ?? ''}`;
}

/** Everything that a sheet refers to, looked up among the sheets of its project. `place`: of the sheet in a package. */
export function contextOf(
  project: Pick<ProjectFacts, 'titleBlocks'>,
  sheet: Sheet,
  sheets: readonly Sheet[],
  place?: PagePlace,
): SheetContext {
  const marks: Record<string, MarkWords> = {};
  for (const { refers } of sheet.notes ?? []) {
    const target = refers && (refers.sheet === sheet.id ? sheet : sheets.find(({ id }) => id === refers.sheet));
    const view = target?.views.find(({ id }) => id === refers?.view);
    if (refers && target && (view || refers.view === undefined)) {
      marks[markKey(refers)] = { sheet: target.number, view: view?.number ?? '' };
    }
  }
  return {
    ...(place && showsPageNumber(project, sheet) && { page: place }),
    ...(Object.keys(marks).length > 0 && { marks }),
  };
}

/** Where each sheet is paged by id when no package is meant: in the first package that holds it. */
export function pagePlaces(packages: readonly { order: readonly string[] }[]): ReadonlyMap<string, PagePlace> {
  const places = new Map<string, PagePlace>();
  for (const { order } of packages) {
    for (const [at, id] of order.entries()) {
      if (!places.has(id)) places.set(id, { page: at + 1, pages: order.length });
    }
  }
  return places;
}
