import type { Colour, EntityBase } from './style';

export type HorizontalAlign = 'left' | 'centre' | 'right' | 'fit' | 'aligned';
export type VerticalAlign = 'baseline' | 'bottom' | 'middle' | 'top';

/** A run of text in one format; absent properties are those of the text's style. */
export interface TextSpan {
  text: string;
  /** Over the height of the text. */
  height: number;
  font?: string;
  colour?: Colour | undefined;
  widthFactor?: number;
  /** Radians. */
  oblique?: number;
  underline?: boolean;
  overline?: boolean;
  strike?: boolean;
  /** The halves of a stack, in place of `text`; `bar` is drawn between them. */
  over?: string;
  under?: string;
  bar?: boolean;
}

/** How a paragraph lies in its text; lengths as multiples of the text's height. */
export interface Paragraph {
  /** Indents: of its first line relative to the others, of these from the left, and from the right. */
  first: number;
  left: number;
  right: number;
  /** Absent: as the text is aligned. */
  align?: 'left' | 'centre' | 'right';
  tabs: { at: number; align: 'left' | 'centre' | 'right' }[];
}

/** A line of text as the file breaks it, in spans; tabs are characters of its text. */
export interface RichLine {
  spans: TextSpan[];
  paragraph?: Paragraph;
  /** It begins the next column. */
  columnBreak?: true;
}

/** Columns that a text flows through; drawing units. */
export interface TextColumns {
  count: number;
  width: number;
  gutter: number;
  /** Of each column; 0, and those not listed, take all that comes. */
  heights: number[];
  rightToLeft: boolean;
}

/** One or more lines of text. Height is that of capitals (of the em where `byEm`), in drawing units; angles in radians. */
export interface TextEntity extends EntityBase {
  kind: 'text';
  lines: string[];
  /** The same lines, where they are not of one look or lie in paragraphs or columns. */
  rich?: RichLine[];
  columns?: TextColumns;
  x: number;
  y: number;
  /** Second point of `fit` and `aligned` text. */
  x2: number;
  y2: number;
  height: number;
  byEm?: true;
  rotation: number;
  widthFactor: number;
  oblique: number;
  backwards: boolean;
  upsideDown: boolean;
  horizontal: HorizontalAlign;
  vertical: VerticalAlign;
  /** Width to wrap at; 0 for none. */
  wrapWidth: number;
  /** Baseline distance over the standard one (5/3 of the height). */
  lineSpacing: number;
  /** Index into `Drawing.textStyles`. */
  textStyle: number;
  /** Of what fills in a blank of a block, the tag of the blank. */
  tag?: string;
}
