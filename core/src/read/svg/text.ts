import { lengthIn, numbersIn } from './numbers';
import type { ComputedStyle } from './style';
import type { XmlNode } from './xml';

/** A piece of text that begins at a place of its own. */
export interface TextChunk {
  text: string;
  x: number;
  y: number;
  looks: ComputedStyle;
}

/**
 * The pieces of a text element. A piece begins wherever a position is given; what follows without one goes on in it, in
 * the looks of its beginning. White space is collapsed as SVG 1.1 asks (10.15).
 */
export function chunksOf(
  node: XmlNode,
  looks: ComputedStyle,
  within: (child: XmlNode, outer: ComputedStyle) => ComputedStyle,
): TextChunk[] {
  const chunks: TextChunk[] = [];
  let [x, y] = [0, 0];
  const place = (element: XmlNode, own: ComputedStyle): void => {
    const { attributes } = element;
    const first = (name: string): number | undefined => {
      const value = attributes[name]?.trim().split(/[\s,]+/)[0];
      return value ? lengthIn(value, 0, 0, own.fontSize) : undefined;
    };
    const [atX, atY, dx, dy] = [first('x'), first('y'), first('dx') ?? 0, first('dy') ?? 0];
    if (atX === undefined && atY === undefined && dy === 0) return;
    [x, y] = [(atX ?? x) + dx, (atY ?? y) + dy];
    chunks.push({ text: '', x, y, looks: own });
  };
  const visit = (element: XmlNode, own: ComputedStyle, depth: number): void => {
    for (const child of element.children) {
      if (child.name === '') {
        if (chunks.length === 0 && child.text.trim()) chunks.push({ text: '', x, y, looks: own });
        const last = chunks.at(-1);
        if (last) {
          if (last.text === '') last.looks = own;
          last.text += child.text;
        }
      } else if ((child.name === 'tspan' || child.name === 'a' || child.name === 'textPath') && depth < 50) {
        const inner = within(child, own);
        place(child, inner);
        visit(child, inner, depth + 1);
      }
    }
  };
  place(node, looks);
  visit(node, looks, 0);
  return chunks
    .map((chunk) => ({ ...chunk, text: chunk.text.replace(/\s+/g, ' ').trim() }))
    .filter(({ text }) => text !== '');
}

/** True where letters have places of their own, of which only the first is followed. */
export function placesLetters(node: XmlNode): boolean {
  return ['x', 'y', 'dx', 'dy', 'rotate'].some((name) => numbersIn(node.attributes[name] ?? '').length > 1);
}
