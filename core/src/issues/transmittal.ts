import Papa from 'papaparse';
import type { Note } from '../sheet/notes/model';
import type { ProjectFacts, Sheet } from '../sheet/model';
import type { Issue } from './model';

/** A4 upright, mm: margin, first line of the list, and what a line of it takes. */
const PAPER = { name: 'A4', orientation: 'portrait' } as const;
const [WIDTH, HEIGHT, MARGIN, ROW, TEXT] = [210, 297, 22, 5.6, 2.8];
const [LIST_FIRST, LIST_NEXT] = [178, 255];
const FOOT = 30;

/** The covering document of an issue: who gets what for which purpose, with every sheet, as sheets to be published. */
export function transmittalPages(issue: Issue, project: Pick<ProjectFacts, 'number' | 'name' | 'client'>): Sheet[] {
  const fitting = (top: number): number => Math.floor((top - FOOT) / ROW) - 1;
  const pages: (typeof issue.sheets)[] = [issue.sheets.slice(0, fitting(LIST_FIRST))];
  for (let at = pages[0]!.length; at < issue.sheets.length; at += fitting(LIST_NEXT)) {
    pages.push(issue.sheets.slice(at, at + fitting(LIST_NEXT)));
  }
  return pages.map((sheets, i) => {
    const notes: Note[] = i === 0 ? heading(issue, project) : [];
    const top = i === 0 ? LIST_FIRST : LIST_NEXT;
    const rows = sheets.map(({ number, title, revision }) => [number, title, revision]);
    notes.push(
      { ...text('page', HEIGHT - 14, `Transmittal ${issue.number}, page ${i + 1} of ${pages.length}`, 2) },
      {
        ...{ id: 'list', kind: 'table', at: [MARGIN, top], width: WIDTH - 2 * MARGIN, size: TEXT },
        text: Papa.unparse([['Sheet', 'Title', 'Revision'], ...rows]),
      },
    );
    return {
      ...{ id: `transmittal-${i + 1}`, number: `${i + 1}`, title: `Transmittal ${issue.number}`, group: '' },
      ...{ paper: PAPER, frame: 'none', titleBlock: undefined, revision: undefined, views: [], notes },
    };
  });
}

function heading(issue: Issue, project: Pick<ProjectFacts, 'number' | 'name' | 'client'>): Note[] {
  const lines: [string, string][] = [
    ['Project', [project.number, project.name].filter(Boolean).join('  ')],
    ['Client', project.client],
    ['To', issue.recipients.join(', ')],
    ['Date', issue.date],
    ['Purpose', issue.purpose],
    ['Package', issue.packageName],
    ['Files', `${issue.files.length}, ${issue.files.reduce((sum, { pages }) => sum + pages, 0)} pages`],
    ['Remarks', issue.remarks],
  ];
  return [
    { ...text('title', 270, `Transmittal ${issue.number}`, 7), style: 'heading' },
    ...lines.flatMap(([caption, value], i): Note[] => [
      text(`caption-${i}`, 252 - 8 * i, caption, 2.5),
      {
        ...text(`value-${i}`, 252 - 8 * i, value || '–', 3),
        at: [MARGIN + 28, 252 - 8 * i],
        width: WIDTH - 2 * MARGIN - 28,
      },
    ]),
  ];
}

function text(id: string, y: number, words: string, size: number): Note {
  return { id, kind: 'text', at: [MARGIN, y], text: words, size };
}
