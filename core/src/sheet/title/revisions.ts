import type { Box } from '../../geometry/box';
import type { Sheet } from '../model';
import type { TitlePen } from './pen';

const ROW_MM = 5;
const SIZE_MM = 1.8;
const BASELINE_MM = 1.6;
const [INDEX_MM, DATE_MM, GAP_MM] = [11, 19, 1.6];
/** The author is at the right, where the table is wide enough for that; part of its width. */
const [AUTHOR_SHARE, WIDE_MM] = [0.2, 80];

/**
 * The revisions of a sheet in rows: index, date and what changed. The latest is at the top of a table that grows
 * up, at the bottom of one that grows down; of more than the cell holds, the oldest are left out.
 */
export function drawRevisions(
  pen: TitlePen,
  box: Box,
  { revision, revisions = [] }: Pick<Sheet, 'revision' | 'revisions'>,
  grows: 'up' | 'down',
): void {
  const all = revision ? [...revisions, revision] : revisions;
  const most = Math.max(0, Math.floor((box.ymax - box.ymin) / ROW_MM));
  const shown = most > 0 ? all.slice(-most) : [];
  const authored = box.xmax - box.xmin >= WIDE_MM && shown.some(({ author }) => author);
  const end = authored ? box.xmax - (box.xmax - box.xmin) * AUTHOR_SHARE : box.xmax;
  shown.forEach(({ index, date, text, author = '' }, i) => {
    const bottom = grows === 'up' ? box.ymin + i * ROW_MM : box.ymax - (i + 1) * ROW_MM;
    const y = bottom + BASELINE_MM;
    const column = (words: string, x: number, room: number): void =>
      pen.write(words, { size: SIZE_MM }, { x, y, room });
    const start = box.xmin + GAP_MM;
    column(index, start, INDEX_MM - GAP_MM);
    column(date, start + INDEX_MM, DATE_MM - GAP_MM);
    // In a narrow table the author follows what changed.
    const words = authored || !author ? text : `${text} (${author})`;
    column(words, start + INDEX_MM + DATE_MM, end - GAP_MM - start - INDEX_MM - DATE_MM);
    if (authored) column(author, end, box.xmax - GAP_MM - end);
    const rule = grows === 'up' ? bottom + ROW_MM : bottom;
    pen.line(box.xmin, rule, box.xmax, rule, 0.13);
  });
}
