/** What may be written and drawn on a sheet itself; lengths in mm on the paper. */
export const NOTE_KINDS = ['text', 'line', 'rectangle', 'cloud'] as const;
export type NoteKind = (typeof NOTE_KINDS)[number];

/** Height of capitals and line weight of a note that says none, mm. */
export const NOTE_SIZE_MM = 2.5;
export const NOTE_WEIGHT_MM = 0.35;

export interface Note {
  id: string;
  kind: NoteKind;
  /** Of a text its upper left corner; of the others one corner, or end. */
  at: [x: number, y: number];
  /** The opposite corner, or end; of a text what it points at, where it points at something. */
  to?: [x: number, y: number];
  /** Lines of a text; of a cloud the revision index in its triangle. */
  text?: string;
  /** Height of capitals of a text, mm; absent: the standard one. */
  size?: number;
  /** Width to wrap a text at, mm; absent: none. */
  width?: number;
  /** Line weight, mm; absent: the standard one. */
  weight?: number;
}
