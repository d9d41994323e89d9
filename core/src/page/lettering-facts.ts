import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { ownFontsOn } from './fonts-on';
import { maskTest } from './groups';
import { markOrder } from './mark-boxes';
import { STROKE, TEXT, UNITS_PER_MM, type Page } from './page';

/** The parts of a page that may be too small to print, and the paper and scale that its texts name. Lengths in mm. */
export interface LetteringFacts {
  /** The lowest text, by the height of its capitals. */
  least?: { height: number; text: string };
  /** The thinnest line that drawings bring along, and a layer of it. */
  thinnest?: { width: number; layer: string };
  /** Texts that are the name of an A size or a scale and nothing else. */
  papers: string[];
  scales: string[];
  /** Typefaces of the office's own that its texts are set in. */
  own: FontId[];
  /** Marks that drawings bring along. */
  drawn: number;
}

const PAPER = /^(?:ISO\s*)?(A[0-4])$/i;
const SCALE = /^(?:scale\s*:?\s*)?(1\s*:\s*\d{1,5})$/i;

/** Looks a page over as it is composed, before it is inked. */
export function letteringFacts(page: Page, fonts: FontSet): LetteringFacts {
  const order = markOrder(page);
  const isOfMask = maskTest(page);
  const found: LetteringFacts = { papers: [], scales: [], own: ownFontsOn(page), drawn: 0 };
  const note = (list: string[], text: string | undefined): void => {
    if (text && !list.includes(text)) list.push(text);
  };
  for (let mark = 0; mark < page.markCount; mark++) {
    if (isOfMask(mark)) continue;
    const { source, name } = page.layers[page.layer[mark]!]!;
    if (source !== '') found.drawn++;
    if (page.kind[mark] === STROKE && source !== '') {
      const width = page.pens[page.pen[mark]!]!.width / UNITS_PER_MM;
      if (!found.thinnest || width < found.thinnest.width) found.thinnest = { width, layer: name };
    }
    if (page.kind[mark] !== TEXT) continue;
    const { text, size, font, c, d } = page.texts[order[mark]!]!;
    const face = fonts.face(font);
    const height = (size * Math.hypot(c, d) * face.capHeight) / face.unitsPerEm / UNITS_PER_MM;
    // A hundredth below is how heights are rounded.
    const rounded = Math.round(height * 100) / 100;
    if (text.trim() && (!found.least || rounded < found.least.height)) found.least = { height: rounded, text };
    note(found.papers, PAPER.exec(text.trim())?.[1]?.toUpperCase());
    note(found.scales, SCALE.exec(text.trim())?.[1]?.replace(/\s/g, ''));
  }
  return found;
}
