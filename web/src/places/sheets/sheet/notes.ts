import type { Note, NoteKind, PlacedNote } from '@folvex/core';
import type { PlacedBox } from './placed-views';

/** Ids of notes among those of views. */
const NOTE = 'note:';

export const NOTE_OFFERS: readonly [NoteKind, string][] = [
  ['text', 'Text'],
  ['line', 'Line'],
  ['rectangle', 'Rectangle'],
  ['cloud', 'Revision cloud'],
  ['mark', 'Reference mark'],
  ['picture', 'Picture'],
  ['table', 'Table'],
];

/** What a kind of note is called. */
export function kindInWords(kind: NoteKind): string {
  return NOTE_OFFERS.find(([one]) => one === kind)![1];
}

export function noteId(chosen: string | null): string | null {
  return chosen?.startsWith(NOTE) ? chosen.slice(NOTE.length) : null;
}

export function shownId(note: string): string {
  return NOTE + note;
}

/** Where notes lie: as they were composed, moved along with what was changed since. They have no scale. */
export function notesOn(notes: readonly Note[], composed: readonly PlacedNote[]): PlacedBox[] {
  const known = new Map(composed.map((note) => [note.id, note]));
  return notes.flatMap(({ id, at }): PlacedBox[] => {
    const last = known.get(id);
    if (!last) return [];
    const [dx, dy] = [at[0] - last.at[0], at[1] - last.at[1]];
    const { xmin, ymin, xmax, ymax } = last.box;
    const box = { xmin: xmin + dx, ymin: ymin + dy, xmax: xmax + dx, ymax: ymax + dy };
    return [{ id: shownId(id), scale: 0, box }];
  });
}

export function movedNote(note: Note, dx: number, dy: number): Note {
  const to: Note['to'] = note.to && [note.to[0] + dx, note.to[1] + dy];
  return { ...note, at: [note.at[0] + dx, note.at[1] + dy], ...(to && { to }) };
}

/** A new note of a kind about a place, mm. */
export function newNote(kind: NoteKind, taken: readonly Note[], [x, y]: [number, number], index: string): Note {
  const ids = new Set(taken.map(({ id }) => id));
  const id = Array.from({ length: ids.size + 1 }, (_, i) => `n${i + 1}`).find((one) => !ids.has(one))!;
  if (kind === 'text') return { id, kind, at: [x, y], text: 'Note' };
  if (kind === 'mark') return { id, kind, at: [x, y] };
  if (kind === 'table') return { id, kind, at: [x - 30, y + 15], text: 'Mark,Width,Height\nD1,900,2100\nD2,1000,2100' };
  const corners: Pick<Note, 'at' | 'to'> = { at: [x - 30, y - 15], to: [x + 30, kind === 'line' ? y - 15 : y + 15] };
  return { id, kind, ...corners, ...(kind === 'cloud' && index && { text: index }) };
}

/** A note in a few words, for lists. */
export function noteName({ kind, text = '' }: Note): string {
  const word = kindInWords(kind);
  if (kind === 'table') return word;
  const [line = ''] = text.split('\n');
  return line ? `${word}: ${line.slice(0, 30)}` : word;
}
