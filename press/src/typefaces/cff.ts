import type { Charset, Font, PathCommand } from 'fontkit';
import type { CffOutlines, GlyphOutline, OutlineLoop } from '@folvex/core';

/** The outlines of a font that has those of PostScript, each read once. */
export function cffOutlines(font: Font): CffOutlines {
  const known = new Map<number, GlyphOutline>();
  const outlineOf = (glyph: number): GlyphOutline => {
    let outline = known.get(glyph);
    if (!outline) known.set(glyph, (outline = loopsOf(font.getGlyph(glyph).path.commands)));
    return outline;
  };
  const { isCIDFont, topDict } = font['CFF '];
  return { outlineOf, ...(isCIDFont && { cidOf: cidsOf(topDict.charset) }) };
}

function loopsOf(commands: readonly PathCommand[]): GlyphOutline {
  const loops: OutlineLoop[] = [];
  const put = (on: boolean, x: number, y: number): void => {
    const loop = loops.at(-1)!;
    loop.x.push(x);
    loop.y.push(y);
    loop.on.push(on);
  };
  for (const { command, args } of commands) {
    if (command === 'closePath') continue;
    if (command === 'moveTo') loops.push({ x: [], y: [], on: [], cubic: true });
    for (let i = 0; i < args.length; i += 2) put(i === args.length - 2, args[i]!, args[i + 1]!);
  }
  return loops;
}

/** The identifier of each glyph, from the list that the font keeps of them (Adobe Technical Note 5176, 13). */
function cidsOf({ glyphs, ranges }: Charset): (glyph: number) => number {
  const cids =
    glyphs ?? (ranges ?? []).flatMap(({ first, nLeft }) => Array.from({ length: nLeft + 1 }, (_, i) => first + i));
  return (glyph) => (glyph === 0 ? 0 : (cids[glyph - 1] ?? 0));
}
