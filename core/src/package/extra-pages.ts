import Papa from 'papaparse';
import { paperOfChoice, type PaperChoice, type PaperSize } from '../paper/sizes';
import type { Note } from '../sheet/notes/model';
import type { ProjectFacts, Sheet } from '../sheet/model';
import type { ExtraPage, SheetPackage } from './model';

/** Margin around the content of such a page, and between the columns of an index, mm. */
const [MARGIN, GUTTER] = [25, 10];
/** Height of capitals of titles and of an index, and of a row of that over it. */
const [TITLE, SUBTITLE, ROW_TEXT, ROW] = [10, 5, 3.5, 2];
/** Widest and narrowest column of an index, mm. */
const [WIDEST, NARROWEST] = [260, 130];

const MODEL = 'model';
const SPACE_PAPER = { name: 'A3', orientation: 'landscape' as const };

/** Between the id of an extra page and the number of one that follows from it. */
const FURTHER = '~';

/** True where an id of an order is that of a page that the package adds, not of a sheet. */
export function isExtraPage({ extras = [] }: Pick<SheetPackage, 'extras'>, id: string): boolean {
  return extras.some((extra) => id === extra.id || id.startsWith(extra.id + FURTHER));
}

/** A page with a title and nothing else. */
export function dividerPage({ id, number, title }: ExtraPage, paper: PaperChoice): Sheet {
  const { height } = sizeOf(paper, []);
  return blank(id, number, title, paper, [
    { id: 'title', kind: 'text', at: [MARGIN, height * 0.62], text: title, style: 'heading', size: TITLE },
  ]);
}

/** A drawing's layout as it is, or its model fitted on a sheet. */
export function spacePage({ id, number, title, drawing = '', space = MODEL }: ExtraPage): Sheet {
  if (space !== MODEL) {
    const layout = { paper: undefined, frame: 'none' as const, from: { drawing, layout: space } };
    return { ...blank(id, number, title, SPACE_PAPER, []), ...layout };
  }
  const view = { ...{ id: 'v1', drawing, space, window: 'extents' as const }, scale: 'fit', at: 'centre' as const };
  return {
    ...blank(id, number, title, SPACE_PAPER, []),
    frame: 'none',
    views: [{ ...view, layersOff: [], label: '' }],
  };
}

/** The list of the sheets that follow, with revision, on as many pages as it needs. */
export function indexPages(
  { id, number, title }: ExtraPage,
  paper: PaperChoice,
  sheets: readonly Sheet[],
  pack: Pick<SheetPackage, 'name' | 'purpose' | 'date'>,
  project: ProjectFacts,
): Sheet[] {
  const { width, height } = sizeOf(paper, project.papers);
  const top = height - MARGIN - 3 * TITLE - 2 * SUBTITLE;
  const columns = Math.max(1, Math.floor((width - 2 * MARGIN + GUTTER) / (NARROWEST + GUTTER)));
  const columnWidth = Math.min(WIDEST, (width - 2 * MARGIN - (columns - 1) * GUTTER) / columns);
  const rowsEach = Math.max(1, Math.floor((top - MARGIN) / (ROW * ROW_TEXT)) - 1);
  const perPage = rowsEach * columns;
  const pages = Math.max(1, Math.ceil(sheets.length / perPage));
  const below = [pack.name, pack.purpose, pack.date].filter(Boolean).join('  ·  ');
  return Array.from({ length: pages }, (_, page) => {
    const notes: Note[] = [
      { id: 'project', kind: 'text', at: [MARGIN, height - MARGIN], text: project.name, style: 'heading', size: TITLE },
      { id: 'package', kind: 'text', at: [MARGIN, height - MARGIN - 2 * TITLE], text: below, size: SUBTITLE },
    ];
    for (let column = 0; column < columns; column++) {
      const from = page * perPage + column * rowsEach;
      const rows = sheets
        .slice(from, from + rowsEach)
        .map((sheet) => [sheet.number, sheet.title, sheet.revision?.index ?? '', sheet.revision?.date ?? '']);
      if (rows.length === 0) break;
      notes.push({
        id: `rows-${column}`,
        kind: 'table',
        at: [MARGIN + column * (columnWidth + GUTTER), top],
        text: Papa.unparse([['Sheet', 'Title', 'Rev.', 'Date'], ...rows]),
        width: columnWidth,
        size: ROW_TEXT,
      });
    }
    const [further, more] = page === 0 ? ['', ''] : [`${FURTHER}${page + 1}`, `.${page + 1}`];
    return blank(id + further, number + more, title, paper, notes);
  });
}

function blank(id: string, number: string, title: string, paper: PaperChoice, notes: Note[]): Sheet {
  return {
    ...{ id, number, title, group: '', paper, frame: 'plain' as const },
    ...{ titleBlock: undefined, revision: undefined, views: [], notes },
  };
}

function sizeOf(paper: PaperChoice, own: ProjectFacts['papers']): PaperSize {
  return paperOfChoice(paper, own) ?? { width: 420, height: 297 };
}
