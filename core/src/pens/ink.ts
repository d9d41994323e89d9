import type { Page, Pen } from '../page/page';

/** How colours are printed. */
export type ColourMode = 'full' | 'greys' | 'black';

/** From this luminance on, a colour counts as white or near white: it masks, and is not blackened. */
const NEAR_WHITE = 0.9;

/** The page as it is printed in a colour mode. Geometry is shared with the page given; only the pens are new. */
export function inkPage(page: Page, mode: ColourMode): Page {
  if (mode === 'full') return page;
  const pens = page.pens.map((pen): Pen => ({ ...pen, colour: inkColour(pen.colour, mode) }));
  return { ...page, pens };
}

/** A colour (0xRRGGBB) in a colour mode. */
export function inkColour(colour: number, mode: ColourMode): number {
  if (mode === 'full') return colour;
  const y = luminance(colour);
  if (mode === 'black') return y >= NEAR_WHITE ? 0xffffff : 0x000000;
  const grey = Math.round(encoded(y) * 255);
  return (grey << 16) | (grey << 8) | grey;
}

/** Relative luminance of an sRGB colour, 0…1 (ITU-R BT.709 weights on linear components). */
export function luminance(colour: number): number {
  const linear = (shift: number): number => {
    const part = ((colour >> shift) & 0xff) / 255;
    // IEC 61966-2-1.
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * linear(16) + 0.7152 * linear(8) + 0.0722 * linear(0);
}

function encoded(linear: number): number {
  return linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055;
}
