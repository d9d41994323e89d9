import type { RunInfo } from '@folvex/contract';

/** What became of a page since an earlier run. */
export type PageState = 'same' | 'changed' | 'new';

export interface ComparedRuns {
  /** By sheet. */
  states: ReadonlyMap<string, PageState>;
  /** Pages of the earlier run that are not there any more, by number and title. */
  gone: string[];
}

/** Where a page lies in a run; both counted as the light table does: files from 0, pages from 1. */
export interface PagePosition {
  file: number;
  page: number;
}

/** Compares two runs page by page, by what was made of each sheet: nothing has to be looked at for that. */
export function comparedRuns(run: RunInfo, earlier: RunInfo): ComparedRuns {
  const [now, then] = [written(run), written(earlier)];
  const contents = new Map(earlier.sheets.map(({ sheetId, content }) => [sheetId, content]));
  const states = new Map<string, PageState>();
  for (const { sheetId, content } of run.sheets) {
    if (!now.has(sheetId)) continue;
    const state = !then.has(sheetId)
      ? 'new'
      : content !== null && contents.get(sheetId) === content
        ? 'same'
        : 'changed';
    states.set(sheetId, state);
  }
  const gone = earlier.sheets
    .filter(({ sheetId }) => then.has(sheetId) && !now.has(sheetId))
    .map(({ number, title }) => `${number} ${title}`.trim());
  return { states, gone };
}

/** The sheet on a page; undefined where sheets go on several pages each, or none is known. */
export function sheetAt({ files }: RunInfo, { file, page }: PagePosition): string | undefined {
  const found = files[file];
  return found && found.pages === found.sheets.length ? found.sheets[page - 1] : undefined;
}

/** Where a sheet lies in a run. */
export function positionOf(run: RunInfo, sheet: string): PagePosition | undefined {
  for (const [file, { sheets }] of run.files.entries()) {
    const page = sheets.indexOf(sheet) + 1;
    if (page > 0 && sheetAt(run, { file, page }) === sheet) return { file, page };
  }
  return undefined;
}

/** Where the first page of a run lies that is not the same in an earlier one. */
export function firstChanged(run: RunInfo, earlier: RunInfo): PagePosition | undefined {
  const { states } = comparedRuns(run, earlier);
  for (const [file, { sheets }] of run.files.entries()) {
    for (const [at, sheet] of sheets.entries()) {
      if (states.get(sheet) !== 'same' && sheetAt(run, { file, page: at + 1 }) === sheet) return { file, page: at + 1 };
    }
  }
  return undefined;
}

function written({ files }: RunInfo): Set<string> {
  return new Set(files.flatMap(({ sheets }) => sheets));
}
