import names from 'color-name';
import type { Gradient } from '../../drawing/gradient';

const NAMED: ReadonlyMap<string, readonly number[]> = new Map(Object.entries(names));

/** A colour with its opacity, 0…1. */
export interface Rgba {
  /** 0xRRGGBB. */
  colour: number;
  alpha: number;
}

/** What something is painted with: one colour, or a gradient with its mean colour. */
export interface Paint extends Rgba {
  gradient?: Gradient;
}

/** A colour of CSS (CSS Color 4): hexadecimal, `rgb()`, `hsl()`, or a name; undefined for what is none. */
export function colourOf(text: string): Rgba | undefined {
  const value = text.trim().toLowerCase();
  if (value === 'transparent') return { colour: 0, alpha: 0 };
  const hex = /^#([0-9a-f]{3,8})$/.exec(value)?.[1];
  if (hex) return ofHex(hex);
  if (/^rgba?\(/.test(value)) return ofRgb(value);
  if (/^hsla?\(/.test(value)) return ofHsl(value);
  const named = NAMED.get(value);
  return named && { colour: packed(named), alpha: 1 };
}

function ofHex(hex: string): Rgba | undefined {
  if (hex.length === 5 || hex.length === 7) return undefined;
  const long = hex.length <= 4 ? [...hex].map((digit) => digit + digit).join('') : hex;
  const alpha = long.length === 8 ? parseInt(long.slice(6), 16) / 255 : 1;
  return { colour: parseInt(long.slice(0, 6), 16), alpha };
}

function ofRgb(value: string): Rgba {
  const parts = value.slice(value.indexOf('(') + 1).match(/[+-]?[\d.]+%?/g) ?? [];
  const part = (i: number): number => {
    const text = parts[i] ?? '0';
    return text.endsWith('%') ? (parseFloat(text) / 100) * 255 : parseFloat(text);
  };
  return { colour: packed([part(0), part(1), part(2)]), alpha: alphaOf(parts[3]) };
}

/** By hue in degrees, saturation and lightness in per cent, and opacity, separated in the old way or the new one. */
function ofHsl(value: string): Rgba {
  const parts = value.slice(value.indexOf('(') + 1).match(/[+-]?[\d.]+%?/g) ?? [];
  const [hue = 0, saturation = 0, lightness = 0] = parts.map(parseFloat);
  const [s, l] = [saturation / 100, lightness / 100];
  const part = (n: number): number => {
    const k = (n + (((hue % 360) + 360) % 360) / 30) % 12;
    return 255 * (l - s * Math.min(l, 1 - l) * Math.max(-1, Math.min(k - 3, 9 - k, 1)));
  };
  return { colour: packed([part(0), part(8), part(4)]), alpha: alphaOf(parts[3]) };
}

function alphaOf(text: string | undefined): number {
  if (text === undefined) return 1;
  const value = text.endsWith('%') ? parseFloat(text) / 100 : parseFloat(text);
  return Math.min(1, Math.max(0, Number.isFinite(value) ? value : 1));
}

function packed(parts: readonly number[]): number {
  return parts.reduce((sum, part) => (sum << 8) | Math.min(255, Math.max(0, Math.round(part || 0))), 0);
}
