import { UNITS_PER_MM, type Page, type PageLayer } from '../page/page';
import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { writeContent } from './content';
import type { ContentOptions, NamedGradient } from './page-content';
import type { ForeignObjects } from './foreign';
import type { MeasuredArea } from './measuring';
import { referencesIn, type TextReference } from './references';

/** Compresses bytes as zlib does; given by the host, since core has no compression of its own. */
export type Deflate = (bytes: Uint8Array) => Uint8Array;

/**
 * A page ready to be put into any PDF: its compressed content with what it needs from the file around it. It knows
 * nothing of that file, so that combined and separate files hold the very same bytes.
 */
export interface SheetPart {
  widthMm: number;
  heightMm: number;
  /** Deflated content stream. */
  content: Uint8Array;
  /** Layers by the number that the content names them with; empty when the content has no layers. */
  layers: [index: number, layer: PageLayer][];
  /** Character codes used of each typeface, as pairs of code and character, by rising code. */
  fonts: [font: FontId, codes: [code: number, codePoint: number][]][];
  /** Opacities that the content asks for, per cent. */
  opacities: number[];
  /** Gradients that the content paints with, by the number that it names them with. */
  gradients: NamedGradient[];
  /** Pictures and placed pages, by the number that the content names them with. */
  pictures: ForeignObjects[];
  /** Deflated content that is likely the same on other pages, by the number that the content names it with. */
  repeated: { content: Uint8Array; fonts: FontId[] }[];
  /** Deflated content of its transparency groups, by the number that the content names them with. */
  groups: { content: Uint8Array; masks: boolean }[];
  /** What in its texts may lead somewhere; the file around it knows where. */
  references: TextReference[];
  /** Rectangles that show something at one scale. */
  measured: MeasuredArea[];
  marks: number;
  texts: number;
  /**
   * Characters of its texts that readers find, but for spaces: those on the paper, and with those at its very edge,
   * which some find and others leave out.
   */
  characters: [least: number, most: number];
}

/** What a part holds besides its content. */
export interface PartExtras extends ContentOptions {
  pictures?: ForeignObjects[];
  measured?: MeasuredArea[];
  /** False where nothing is to lead anywhere. */
  links?: boolean;
}

/**
 * Writes a page as a part. `layered` puts its marks into optional content groups; `pictures` are the objects of each of
 * the page's pictures.
 */
export function writePart(
  page: Page,
  fonts: FontSet,
  layered: boolean,
  deflate: Deflate,
  { pictures = [], measured = [], links = true, ...options }: PartExtras = {},
): SheetPart {
  const content = writeContent(page, fonts, layered, options);
  const used = fonts.ids.filter((id) => content.fonts.has(id));
  return {
    widthMm: page.widthMm,
    heightMm: page.heightMm,
    content: deflate(content.bytes),
    layers: layered ? content.layers.map((index) => [index, page.layers[index]!]) : [],
    fonts: used.map((id) => [id, [...content.fonts.get(id)!].sort((a, b) => a[0] - b[0])]),
    opacities: content.opacities,
    gradients: content.gradients,
    pictures,
    repeated: content.repeated.map(({ bytes, fonts }) => ({ content: deflate(bytes), fonts })),
    groups: content.groups.map(({ bytes, masks }) => ({ content: deflate(bytes), masks })),
    references: links ? referencesIn(page, fonts) : [],
    measured,
    marks: page.markCount,
    texts: page.texts.length,
    characters: charactersOnPaper(page, fonts),
  };
}

/** How many characters begin on the paper, surely and perhaps. */
function charactersOnPaper({ widthMm, heightMm, texts }: Page, fonts: FontSet): SheetPart['characters'] {
  const [right, top] = [widthMm * UNITS_PER_MM, heightMm * UNITS_PER_MM];
  let [least, most] = [0, 0];
  for (const text of texts) {
    const face = fonts.face(text.font);
    const reach = text.size * Math.max(Math.hypot(text.a, text.b), Math.hypot(text.c, text.d));
    const [endX, endY] = [text.x + text.a * text.advance, text.y + text.b * text.advance];
    // Nearly all texts lie well within the paper.
    if (Math.min(text.x, text.y, endX, endY, right - text.x, top - text.y, right - endX, top - endY) >= reach) {
      const count = countOf(text.text);
      least += count;
      most += count;
      continue;
    }
    let along = 0;
    for (const character of text.text) {
      const [x, y] = [text.x + text.a * along, text.y + text.b * along];
      const inside = Math.min(x, y, right - x, top - y);
      if (character.trim()) {
        if (inside >= reach) least++;
        if (inside >= -reach) most++;
      }
      along += (face.advanceOf(face.glyphOf(character.codePointAt(0)!)) / face.unitsPerEm) * text.size;
    }
  }
  return [least, most];
}

/** Characters but for spaces; those of two halves count once. */
function countOf(text: string): number {
  let count = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    const second = code >= 0xdc00 && code <= 0xdfff;
    const space = code < 33 || (code > 126 && text[i]!.trim() === '');
    if (!second && !space) count++;
  }
  return count;
}
