import { COLOUR_FOREGROUND, type Colour } from './model';

const FIRST = [0xff0000, 0xffff00, 0x00ff00, 0x00ffff, 0x0000ff, 0xff00ff];
const GREYS = [0x000000, 0x656565, 0x666666, 0x999999, 0xcccccc, 0xffffff];
const BRIGHTNESS = [1, 0.65, 0.5, 0.3, 0.15];

/**
 * The colour of a DXF colour index 1…255 as 0xRRGGBB, or foreground for 7 (and for what is out of range).
 * Indices 10…249 are 24 hues a quarter of a sector apart, each in five brightnesses, odd ones half saturated; the
 * published index tables agree with that rule but for rounding and misprints.
 */
export function colourFromIndex(index: number): Colour {
  if (index >= 1 && index <= 6) return FIRST[index - 1]!;
  if (index === 8) return 0x808080;
  if (index === 9) return 0xc0c0c0;
  if (index >= 250 && index <= 255) return GREYS[index - 250]!;
  if (index < 10 || index > 249 || !Number.isInteger(index)) return COLOUR_FOREGROUND;
  const hue = Math.floor((index - 10) / 10);
  const value = 255 * BRIGHTNESS[Math.floor((index % 10) / 2)]!;
  const saturate = (part: number): number => Math.floor(value * (index % 2 ? (part + 1) / 2 : part) + 1e-9);
  const [r, g, b] = hueParts(Math.floor(hue / 4), (hue % 4) / 4).map(saturate);
  return (r! << 16) | (g! << 8) | b!;
}

function hueParts(sector: number, within: number): number[] {
  switch (sector) {
    case 0:
      return [1, within, 0];
    case 1:
      return [1 - within, 1, 0];
    case 2:
      return [0, 1, within];
    case 3:
      return [0, 1 - within, 1];
    case 4:
      return [within, 0, 1];
    default:
      return [1, 0, 1 - within];
  }
}
