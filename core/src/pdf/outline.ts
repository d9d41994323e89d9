import type { ObjectWriter } from './file-writer';
import { points, textString } from './syntax';

/** An entry of the outline: a group, a sheet, or a view of it. */
export interface OutlineEntry {
  title: string;
  /** Object of the page it leads to; absent: it only holds others, and leads to the first of them. */
  page?: number;
  /** xmin, ymin, xmax, ymax in points of what of the page is shown; absent: all of it. */
  box?: number[];
  /** True where what it holds is shown at first. */
  open?: boolean;
  entries: OutlineEntry[];
}

/** Writes the outline of a file (ISO 32000-2, 12.3.3). Returns the number of its root. */
export function writeOutline(file: ObjectWriter, entries: readonly OutlineEntry[]): number {
  const root = file.reserve();
  const ends = writeLevel(file, root, entries);
  file.define(root, `<< /Type /Outlines${ends}${entries.length ? ` /Count ${shownIn(entries)}` : ''} >>`);
  return root;
}

/** Writes the entries of one level; returns the `First` and `Last` entries of the dictionary above. */
function writeLevel(file: ObjectWriter, parent: number, entries: readonly OutlineEntry[]): string {
  const items = entries.map(() => file.reserve());
  entries.forEach((entry, i) => {
    const within = writeLevel(file, items[i]!, entry.entries);
    const links = [i > 0 && ` /Prev ${items[i - 1]} 0 R`, i + 1 < items.length && ` /Next ${items[i + 1]} 0 R`];
    const shown = shownIn(entry.entries);
    const count = shown > 0 ? ` /Count ${entry.open ? shown : -shown}` : '';
    const target = destinationOf(entry);
    const body = `<< /Title ${textString(entry.title)} /Parent ${parent} 0 R${links.filter(Boolean).join('')}${within}${count}${target} >>`;
    file.define(items[i]!, body);
  });
  return items.length ? ` /First ${items[0]} 0 R /Last ${items.at(-1)} 0 R` : '';
}

function destinationOf({ page, box, entries }: OutlineEntry): string {
  if (page !== undefined) return ` /Dest [${page} 0 R ${box ? `/FitR ${box.map(points).join(' ')}` : '/Fit'}]`;
  return entries[0] ? destinationOf(entries[0]) : '';
}

/** How many entries of some are in sight, those of open ones counted in. */
function shownIn(entries: readonly OutlineEntry[]): number {
  return entries.reduce((sum, { open, entries: inner }) => sum + 1 + (open ? shownIn(inner) : 0), 0);
}
