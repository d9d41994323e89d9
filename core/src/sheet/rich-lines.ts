import type { Drawing, Paragraph, RichLine, TextColumns, TextEntity, TextSpan } from '../drawing/model';
import type { FontId, SubstituteFont } from '../text/fonts';
import { textAdvance, type FontSet } from '../text/layout';
import { emOf, LINE_STEP } from './lettering';

/** A piece of a line in one look, in the text's own axes and units: `x, y` is the beginning of its baseline. */
export interface LinePiece {
  span: TextSpan;
  text: string;
  font: FontId;
  widthFactor: number;
  /** Height of capitals. */
  height: number;
  width: number;
  x: number;
  y: number;
}

interface Line {
  pieces: LinePiece[];
  width: number;
  height: number;
  align: 'left' | 'centre' | 'right';
  columnBreak: boolean;
}

export type RichText = TextEntity & { rich: RichLine[] };

/** The halves of a stack over the height of the text around (common practice). */
export const STACKED = 0.65;
/** Height of a line with a stack over that of its text. */
const STACK_LINE = 1.3;
const EMPTY_LINE = 0.2;
/** Distance of tab stops where a paragraph sets none, over the height of the text (DXF). */
const TAB = 4;
const SLACK = 1.0001;

/** Breaks a rich text into lines and pieces, each at its place about the text's anchor. */
export function richPieces(fonts: FontSet, drawing: Drawing, entity: RichText): LinePiece[] {
  const breaker = new Breaker(fonts, entity, fonts.substitute(drawing.textStyles[entity.textStyle]?.font ?? ''));
  const lines = entity.rich.flatMap((line) => breaker.lines(line));
  const box = entity.wrapWidth > 0 ? entity.wrapWidth : Math.max(0, ...lines.map(({ width }) => width));
  const columns = flow(lines, entity);
  const spread = (entity.columns?.width ?? 0) + (entity.columns?.gutter ?? 0);
  const whole = entity.columns ? spread * (entity.columns.count - 1) + box : box;
  const left = leftOf(entity.horizontal, whole);
  const tallest = Math.max(0, ...columns.map((column) => heightOf(column, entity)));
  const top = entity.vertical === 'top' ? 0 : entity.vertical === 'middle' ? tallest / 2 : tallest;
  return columns.flatMap((column, i) => {
    const place = entity.columns?.rightToLeft ? entity.columns.count - 1 - i : i;
    return placed(column, entity, left + place * spread, top, box);
  });
}

function leftOf(align: TextEntity['horizontal'], width: number): number {
  if (align === 'right') return -width;
  return align === 'centre' ? -width / 2 : 0;
}

function stepOf(line: Line, entity: TextEntity): number {
  return line.height * LINE_STEP * entity.lineSpacing;
}

function heightOf(lines: readonly Line[], entity: TextEntity): number {
  return lines.reduce((sum, line, i) => sum + (i === 0 ? line.height : stepOf(line, entity)), 0);
}

/** Shares lines out over the columns: one is full when the next line would pass its height. */
function flow(lines: readonly Line[], entity: TextEntity): Line[][] {
  const { columns } = entity;
  if (!columns) return [[...lines]];
  const shared: Line[][] = [[]];
  let filled = 0;
  for (const line of lines) {
    const current = shared.at(-1)!;
    const more = current.length === 0 ? line.height : stepOf(line, entity);
    const room = roomOf(columns, shared.length - 1);
    const over = current.length > 0 && filled + more > room * SLACK;
    if ((over || line.columnBreak) && shared.length < columns.count) {
      shared.push([line]);
      filled = line.height;
    } else {
      current.push(line);
      filled += more;
    }
  }
  return shared;
}

function roomOf({ heights, count }: TextColumns, column: number): number {
  return column < count - 1 ? heights[column] || Infinity : Infinity;
}

function placed(lines: readonly Line[], entity: TextEntity, left: number, top: number, box: number): LinePiece[] {
  let y = top;
  return lines.flatMap((line, i) => {
    y -= i === 0 ? line.height : stepOf(line, entity);
    const shift = left + (line.align === 'left' ? 0 : (box - line.width) / (line.align === 'centre' ? 2 : 1));
    return line.pieces.map((piece) => ({ ...piece, x: piece.x + shift, y }));
  });
}

/** Measures spans and breaks them at spaces where a line is wider than the text may be. */
class Breaker {
  private pieces: LinePiece[] = [];
  private x = 0;
  /** Position in `pieces` of what the last tab moves, and how; the rest of a line comes after it. */
  private tab: { from: number; at: number; align: 'centre' | 'right' } | undefined;

  constructor(
    private readonly fonts: FontSet,
    private readonly entity: TextEntity,
    private readonly own: SubstituteFont,
  ) {}

  lines({ spans, paragraph, columnBreak }: RichLine): Line[] {
    const { entity } = this;
    const em = entity.height;
    const most = entity.wrapWidth > 0 ? entity.wrapWidth - (paragraph?.right ?? 0) * em : 0;
    const lines: Line[] = [];
    const align = entity.horizontal === 'right' || entity.horizontal === 'centre' ? entity.horizontal : 'left';
    const end = (): void => {
      this.trimEnd();
      this.settleTab();
      const height = Math.max(
        em * EMPTY_LINE,
        ...this.pieces.map((piece) => piece.height * (piece.span.over === undefined ? 1 : STACK_LINE)),
      );
      lines.push({
        pieces: this.pieces,
        width: this.x,
        height: this.pieces.length ? height : em,
        align: paragraph?.align ?? align,
        columnBreak: lines.length === 0 && columnBreak === true,
      });
      this.pieces = [];
      this.x = (paragraph?.left ?? 0) * em;
    };
    this.pieces = [];
    this.x = Math.max(0, ((paragraph?.left ?? 0) + (paragraph?.first ?? 0)) * em);
    for (const span of spans) {
      if (span.over !== undefined) {
        this.add(this.piece(span, ''));
        continue;
      }
      // Words keep the space behind them; one that overhangs only by its space stays.
      for (const word of span.text.match(/\t|[^ \t]+ ?| /g) ?? []) {
        if (word === '\t') {
          this.toTab(paragraph);
          continue;
        }
        const bare = this.piece(span, word.trimEnd());
        if (most > 0 && this.pieces.length > 0 && !this.tab && this.x + bare.width > most * SLACK) end();
        this.add(this.piece(span, word));
      }
    }
    end();
    return lines;
  }

  private add(piece: LinePiece): void {
    const last = this.pieces.at(-1);
    // Words in one look stay one text, so that a search finds what spans them.
    const follows = last?.span === piece.span && piece.span.over === undefined && last.x + last.width === this.x;
    if (last && follows && this.tab?.from !== this.pieces.length) {
      last.text += piece.text;
      last.width += piece.width;
    } else this.pieces.push({ ...piece, x: this.x });
    this.x = this.pieces.at(-1)!.x + this.pieces.at(-1)!.width;
  }

  /** The space after the last word of a line has no width: centred and right-aligned lines are placed by their letters. */
  private trimEnd(): void {
    const last = this.pieces.at(-1);
    if (!last?.text.endsWith(' ') || last.x + last.width !== this.x) return;
    last.width = this.piece(last.span, last.text.trimEnd()).width;
    this.x = last.x + last.width;
  }

  /** Moves on to the next tab stop; beyond the last one, to the next multiple of the standard distance. */
  private toTab(paragraph: Paragraph | undefined): void {
    this.settleTab();
    const em = this.entity.height;
    const stop = paragraph?.tabs.find(({ at }) => at * em > this.x * SLACK);
    const next = stop ? stop.at * em : (Math.floor(((this.x / em) * SLACK) / TAB) + 1) * TAB * em;
    if (stop && stop.align !== 'left') this.tab = { from: this.pieces.length, at: next, align: stop.align };
    else this.x = next;
  }

  /** Puts what came after a centred or right-aligned tab at its stop. */
  private settleTab(): void {
    const { tab } = this;
    this.tab = undefined;
    if (!tab) return;
    const moved = this.pieces.slice(tab.from);
    const begins = moved[0]?.x ?? this.x;
    const width = this.x - begins;
    const wanted = tab.at - (tab.align === 'right' ? width : width / 2);
    const shift = Math.max(0, wanted - begins);
    for (const piece of moved) piece.x += shift;
    this.x += shift;
  }

  private piece(span: TextSpan, text: string): LinePiece {
    const { font, width: room } = span.font === undefined ? this.own : this.fonts.substitute(span.font);
    const height = this.entity.height * span.height;
    const widthFactor = (span.widthFactor ?? this.entity.widthFactor) * room;
    const widthOf = (part: string, size: number): number =>
      textAdvance(this.fonts, font, part) * emOf(this.fonts, font, size) * widthFactor;
    const width =
      span.over === undefined
        ? widthOf(text, height)
        : Math.max(widthOf(span.over, height * STACKED), widthOf(span.under ?? '', height * STACKED));
    return { span, text, font, widthFactor, height, width, x: 0, y: 0 };
  }
}
