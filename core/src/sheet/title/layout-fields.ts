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

/** A filled blank of a title block. */
interface Blank {
  tag: string;
  text: string;
}

function fieldsOf(insert: InsertEntity | undefined): LayoutFields | undefined {
  if (!insert || insert.attributes.length < FEWEST_ATTRIBUTES) return undefined;
  const blanks = insert.attributes
    .map(({ tag = '', lines }): Blank => ({
      tag: tag.toUpperCase(),
      text: lines.join(' ').replace(/\s+/g, ' ').trim(),
    }))
    .filter(({ text }) => text !== '' && text.length <= MAX_LENGTH);
  const [number] = meaning(blanks, 'sheet.number');
  const [revision] = meaning(blanks, 'sheet.revision');
  const [date] = meaning(blanks, 'sheet.date', /REV/).flatMap(({ text }) => isoDate(text) ?? []);
  const titles = meaning(blanks, 'sheet.title', /TITLE/);
  // Titles are often split over several blanks: TITLE1, TITLE2.
  const title = titles.filter(({ tag }) => withoutDigits(tag) === withoutDigits(titles[0]!.tag));
  return {
    ...(number && { number: number.text }),
    ...(title.length > 0 && { title: title.map(({ text }) => text).join(' ') }),
    ...(revision && { revision: revision.text }),
    ...(date && { date }),
  };
}

/** The blanks whose tags mean a field; those whose tags also hold `best` come first. */
function meaning(blanks: readonly Blank[], field: string, best = /^/): Blank[] {
  const all = blanks.filter(({ tag }) => meaningOf(tag) === field);
  return [...all.filter(({ tag }) => best.test(tag)), ...all.filter(({ tag }) => !best.test(tag))];
}

function withoutDigits(tag: string): string {
  return tag.replace(/[\d_ -]/g, '');
}

/** A date whose parts can be told apart (`2026-11-12`, `12.11.2026`), in ISO 8601. */
function isoDate(text: string): string | undefined {
  const [, year, month, day] = /^(\d{4})-(\d\d?)-(\d\d?)$/.exec(text) ?? [];
  const [, last, middle, first] = /^(\d\d?)\.(\d\d?)\.(\d{4})$/.exec(text) ?? [];
  const [y, m, d] = year ? [year, month, day] : [first, middle, last];
  if (!y || !m || !d || Number(m) < 1 || Number(m) > 12 || Number(d) < 1 || Number(d) > 31) return undefined;
  return `${y}-${m.padStart(2, '0')}-${d.padStart(2, '0')}`;
}
