import { withOwn } from '../../shipped';

/** What may be written and drawn on a sheet itself; lengths in mm on the paper. */
export const NOTE_KINDS = ['text', 'line', 'rectangle', 'cloud', 'mark', 'picture', 'table'] as const;
export type NoteKind = (typeof NOTE_KINDS)[number];

/** Height of capitals and line weight of a note that says none, mm. */
export const NOTE_SIZE_MM = 2.5;
export const NOTE_WEIGHT_MM = 0.35;

/** What a mark refers to: a sheet of the project, or one of its views. */
export interface NoteTarget {
  /** Id of the sheet. */
  sheet: string;
  /** Id of the view. */
  view?: string;
}

export interface Note {
  id: string;
  kind: NoteKind;
  /** Of a text or table its upper left corner, of a mark its middle; of the others one corner, or end. */
  at: [x: number, y: number];
  /** The opposite corner, or end; of a text or mark what it points at, where it points at something. */
  to?: [x: number, y: number];
  /** Lines of a text; of a cloud the revision index in its triangle; of a table its rows as CSV. */
  text?: string;
  /** Id of the text style; absent: the standard one. */
  style?: string;
  /** Height of capitals of a text or table, mm; absent: that of its style. */
  size?: number;
  /** Width to wrap a text at, or of a whole table, mm; absent: as wide as it comes. */
  width?: number;
  /** Line weight, mm; absent: the standard one. */
  weight?: number;
  /** Of a mark. */
  refers?: NoteTarget;
  /** Of a picture: id of the drawing whose model is fitted into its rectangle. */
  drawing?: string;
}

/** How notes of a kind are lettered throughout a project. */
export interface NoteStyle {
  id: string;
  name: string;
  /** Height of capitals, mm. */
  size: number;
  /** A shipped typeface, or the id of one of the office's own. */
  font: string;
  /** 0xRRGGBB; absent: black. */
  colour?: number;
}

/** The text styles that every project has, of heights after ISO 3098; the first is the standard one. */
const SHIPPED_STYLES: readonly [NoteStyle, ...NoteStyle[]] = [
  { id: 'note', name: 'Note', size: NOTE_SIZE_MM, font: 'sans' },
  { id: 'heading', name: 'Heading', size: 5, font: 'condensed' },
  { id: 'small', name: 'Small print', size: 1.8, font: 'sans' },
];

const [STANDARD_STYLE] = SHIPPED_STYLES;

/** All text styles of a project: the shipped ones and its own, which may take the place of a shipped one. */
export function noteStylesOf({ textStyles }: { textStyles?: NoteStyle[] }): NoteStyle[] {
  return withOwn(SHIPPED_STYLES, textStyles);
}

/** How a note is lettered. */
export function letteringOf(note: Note, styles: readonly NoteStyle[]): { size: number; font: string; colour: number } {
  const {
    size,
    font,
    colour = 0,
  } = styles.find(({ id }) => id === (note.style ?? STANDARD_STYLE.id)) ?? STANDARD_STYLE;
  return { size: note.size ?? size, font, colour };
}
