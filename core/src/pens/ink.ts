import { inColour, recoloured, type Page, type Pen } from '../page/page';

/** How colours are printed. */
export type ColourMode = 'full' | 'greys' | 'black';

/**
 * A colour whose every part reaches this counts as white or near white: it masks, and is not blackened. Luminance would
 * not do: that of pure yellow is 0.93, and yellow is a colour that lines are drawn in.
 */
const NEAR_WHITE = 0xf0;

/** The page as it is printed in a colour mode. Geometry is shared with the page given; only the pens are new. */
export function inkPage(page: Page, mode: ColourMode): Page {
  if (mode === 'full') return page;
  const ink = (colour: number): number => inkColour(colour, mode);
  const inked = (pen: Pen): Pen => {
    if (pen.masks) return pen;
    return mode === 'greys' ? recoloured(pen, ink) : inColour(pen, ink(pen.colour));
  };
  return { ...page, pens: page.pens.map(inked) };
}

/** A colour (0xRRGGBB) in a colour mode. */
export function inkColour(colour: number, mode: ColourMode): number {
  if (mode === 'full') return colour;
  if (mode === 'black') return isNearWhite(colour) ? 0xffffff : 0x000000;
  const grey = Math.round(encoded(luminance(colour)) * 255);
  return (grey << 16) | (grey << 8) | grey;
}

/** A colour as so many per cent of its ink print on white paper: what a screen of dots looks like from afar. */
export function screened(colour: number, percent: number): number {
  const part = (shift: number): number =>
    Math.round(255 - ((255 - ((colour >> shift) & 255)) * percent) / 100) << shift;
  return part(16) | part(8) | part(0);
}

function isNearWhite(colour: number): boolean {
  return Math.min(colour >> 16, (colour >> 8) & 0xff, colour & 0xff) >= NEAR_WHITE;
}

/** The grey that a colour of a mask counts as (SVG 1.1, 14.4: the weights of luminance, on the encoded parts). */
export function brightness(colour: number): number {
  const weighted = 0.2125 * (colour >> 16) + 0.7154 * ((colour >> 8) & 0xff) + 0.0721 * (colour & 0xff);
  return Math.min(255, Math.round(weighted)) * 0x010101;
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
