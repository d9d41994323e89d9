import { lengthIn } from './numbers';
import type { ComputedStyle } from './style';
import type { XmlNode } from './xml';

/** A piece of text that begins at a place of its own. */
export interface TextChunk {
  text: string;
  x: number;
  y: number;
  looks: ComputedStyle;
}

/** The pieces of a text, and what of it is not followed, in sentences. */
export interface TextChunks {
  chunks: TextChunk[];
  notFollowed: Set<string>;
}

const DEEPEST = 50;
const PARTS = new Set(['tspan', 'a', 'textPath']);

/**
 * The pieces of a text element. A piece begins wherever a position is given, for single letters too; what follows without
 * one goes on in it, in the looks of its beginning. White space is collapsed as SVG 1.1 asks (10.15).
 */
export function chunksOf(
  node: XmlNode,
  looks: ComputedStyle,
  within: (child: XmlNode, outer: ComputedStyle) => ComputedStyle,
): TextChunks {
  const reader = new TextReader(within);
  reader.visit(node, looks, 0);
  const chunks = reader.chunks.map((chunk) => ({ ...chunk, text: chunk.text.trim() }));
  return { chunks: chunks.filter(({ text }) => text !== ''), notFollowed: reader.notFollowed };
}

/** Positions given for the letters of an element, one after the other. */
interface Places {
  x: number[];
  y: number[];
  dx: number[];
  dy: number[];
}

class TextReader {
  readonly chunks: TextChunk[] = [];
  readonly notFollowed = new Set<string>();
  private x = 0;
  private y = 0;
  /** Positions of the elements around, the innermost last. */
  private readonly open: Places[] = [];

  constructor(private readonly within: (child: XmlNode, outer: ComputedStyle) => ComputedStyle) {}

  visit(element: XmlNode, own: ComputedStyle, depth: number): void {
    this.open.push(placesOf(element, own.fontSize));
    if (element.attributes['rotate'] !== undefined)
      this.notFollowed.add('Letters that are rotated one by one are set upright.');
    if (element.name === 'textPath') this.notFollowed.add('Text along a path is set on a straight line.');
    for (const child of element.children) {
      if (child.name === '') this.letters(child.text, own);
      else if (PARTS.has(child.name) && depth < DEEPEST) this.visit(child, this.within(child, own), depth + 1);
    }
    this.open.pop();
  }

  private letters(text: string, looks: ComputedStyle): void {
    const collapsed = text.replace(/\s+/g, ' ');
    const letters = (this.chunks.at(-1)?.text.endsWith(' ') ?? true) ? collapsed.replace(/^ /, '') : collapsed;
    for (const letter of letters) {
      const [x, y, dx = 0, dy = 0] = (['x', 'y', 'dx', 'dy'] as const).map((name) => this.next(name));
      const last = this.chunks.at(-1);
      if (x !== undefined || y !== undefined || !last) {
        [this.x, this.y] = [(x ?? this.x) + dx, (y ?? this.y) + dy];
        this.chunks.push({ text: letter, x: this.x, y: this.y, looks });
        continue;
      }
      if (dx !== 0 || dy !== 0) this.notFollowed.add('Shifts of single letters (dx, dy) are not followed.');
      if (!alike(last.looks, looks)) {
        this.notFollowed.add('Text that changes its style within a line is shown in the style that it begins with.');
      }
      last.text += letter;
    }
  }

  /** What is given for the next letter: by the innermost element that has something left. */
  private next(name: keyof Places): number | undefined {
    let found: number | undefined;
    for (const places of this.open) found = places[name].shift() ?? found;
    return found;
  }
}

function placesOf({ attributes }: XmlNode, fontSize: number): Places {
  const list = (name: string): number[] =>
    (attributes[name] ?? '')
      .trim()
      .split(/[\s,]+/)
      .filter(Boolean)
      .map((length) => lengthIn(length, 0, 0, fontSize));
  return { x: list('x'), y: list('y'), dx: list('dx'), dy: list('dy') };
}

function alike(a: ComputedStyle, b: ComputedStyle): boolean {
  return a.fill === b.fill && a.fontSize === b.fontSize && a.fontFamily === b.fontFamily && a.visible === b.visible;
}
