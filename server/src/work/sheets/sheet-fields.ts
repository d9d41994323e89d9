import type { SheetChange, SheetFields } from '@folvex/contract';
import { sameValue, type Revision, type Sheet } from '@folvex/core';
import { Refused } from '../../errors';

/** Fields that a sheet's picture depends on beyond plain text. */
export const COMPOSED_FIELDS = [
  'paper',
  'frame',
  'margins',
  'marks',
  'titleBlock',
  'views',
  'notes',
  'revisions',
  'fields',
] as const;
const FIELD_WORDS: Readonly<Record<keyof SheetFields, string>> = {
  number: 'number',
  title: 'title',
  group: 'group',
  paper: 'paper',
  frame: 'frame',
  margins: 'margins',
  marks: 'marks',
  titleBlock: 'title block',
  revision: 'revision',
  revisions: 'earlier revisions',
  fields: 'sheet fields',
  views: 'views',
  notes: 'notes',
};

/** What a change is about, in words. */
export function wordsOf(fields: Partial<SheetFields>, hold: SheetChange['hold']): string {
  const words = (Object.keys(fields) as (keyof SheetFields)[]).map((field) => FIELD_WORDS[field]);
  return [...words, ...(hold ? ['held version'] : [])].join(' and ');
}

/** A sheet with some fields set; null means that there is none. */
export function withFields(sheet: Sheet, fields: Partial<SheetFields>): Sheet {
  const plain = Object.fromEntries(Object.entries(fields).map(([name, value]) => [name, value ?? undefined]));
  return { ...sheet, ...(plain as Partial<Sheet>), ...(fields.revision && earlierThan(sheet, fields.revision)) };
}

/** The revisions before a new one: a sheet that moves up keeps the one that it had. */
function earlierThan({ revision, revisions = [] }: Sheet, next: Revision): Pick<Sheet, 'revisions'> {
  if (!revision || revision.index === next.index) return {};
  return { revisions: [...revisions, revision] };
}

/** Refuses a change to a sheet that no longer is what the person saw. */
export function refuseChanged(sheet: Sheet, was: Partial<SheetFields>): void {
  for (const [field, seen] of Object.entries(was) as [keyof SheetFields, unknown][]) {
    if (sameValue(sheet[field], seen)) continue;
    const words = FIELD_WORDS[field] ?? field;
    const sentence = `Somebody else changed the ${words} of ${sheet.number} in the meantime; it is shown as it is now.`;
    throw new Refused(409, 'sheet.changed', sentence, { sheet: sheet.number });
  }
}

/** A sheet whose views of a drawing are held at a version, or follow it. */
export function withHeldVersion(sheet: Sheet, drawing: string, version: number | undefined): Sheet {
  const held = <T extends { drawing: string; held?: number }>(shown: T): T => {
    if (shown.drawing !== drawing) return shown;
    const next = { ...shown };
    delete next.held;
    if (version !== undefined) next.held = version;
    return next;
  };
  return { ...sheet, views: sheet.views.map(held), ...(sheet.from && { from: held(sheet.from) }) };
}
