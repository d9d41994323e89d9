import type { Entity, InsertEntity, Space } from '../../drawing/model';
import { meaningOf } from './meanings';

/** What the title block of a layout says of its sheet. */
export interface LayoutFields {
  number?: string;
  title?: string;
  revision?: string;
  /** YYYY-MM-DD. */
  date?: string;
}

/** With fewer filled blanks than this a block is more likely a symbol than a title block. */
const FEWEST_ATTRIBUTES = 3;
/** Longer values are notes. */
const MAX_LENGTH = 200;

/** The fields of a sheet that the title block of a layout fills in: of the block whose tags mean the most of them. */
export function layoutFields({ entities }: Space): LayoutFields {
  const found = entities.flatMap((entity) => fieldsOf(insertOf(entity)) ?? []);
  const count = (fields: LayoutFields): number => Object.keys(fields).length;
  return found.reduce((best, fields) => (count(fields) > count(best) ? fields : best), {});
}

function insertOf(entity: Entity): InsertEntity | undefined {
  const plain = entity.kind === 'tilted' ? entity.entity : entity;
  return plain.kind === 'insert' ? plain : undefined;
}

function fieldsOf(insert: InsertEntity | undefined): LayoutFields | undefined {
  if (!insert || insert.attributes.length < FEWEST_ATTRIBUTES) return undefined;
  const values = new Map<string, string[]>();
  for (const { tag = '', lines } of insert.attributes) {
    const text = lines.join(' ').replace(/\s+/g, ' ').trim();
    const field = meaningOf(tag);
    if (!field || text === '' || text.length > MAX_LENGTH) continue;
    values.set(field, [...(values.get(field) ?? []), text]);
  }
  const first = (field: string): string | undefined => values.get(field)?.[0];
  // Titles are often split over several blanks: TITLE1, TITLE2.
  const title = values.get('sheet.title')?.join(' ');
  const [number, revision, date] = [first('sheet.number'), first('sheet.revision'), isoDate(first('sheet.date'))];
  return { ...(number && { number }), ...(title && { title }), ...(revision && { revision }), ...(date && { date }) };
}

/** A date whose parts can be told apart (`2026-11-12`, `12.11.2026`), in ISO 8601. */
function isoDate(text = ''): string | undefined {
  const [, year, month, day] = /^(\d{4})-(\d\d?)-(\d\d?)$/.exec(text) ?? [];
  const [, last, middle, first] = /^(\d\d?)\.(\d\d?)\.(\d{4})$/.exec(text) ?? [];
  const [y, m, d] = year ? [year, month, day] : [first, middle, last];
  if (!y || !m || !d || Number(m) < 1 || Number(m) > 12 || Number(d) < 1 || Number(d) > 31) return undefined;
  return `${y}-${m.padStart(2, '0')}-${d.padStart(2, '0')}`;
}
