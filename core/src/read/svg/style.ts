import type { LineShape } from '../../geometry/line-shape';
import { colourOf, type Paint } from './colour';
import { declarationsOf, type Declarations, type StyleSheet } from './css';
import { lengthIn, numbersIn } from './numbers';
import type { XmlNode } from './xml';

/** What an element looks like, inherited values filled in; lengths in user units. */
export interface ComputedStyle {
  fill: string;
  stroke: string;
  color: string;
  fillOpacity: number;
  strokeOpacity: number;
  /** Of the groups around it and itself, multiplied. */
  opacity: number;
  strokeWidth: number;
  dashes: number[];
  cap: LineShape['cap'];
  join: LineShape['join'];
  miterLimit: number;
  evenOdd: boolean;
  clipEvenOdd: boolean;
  fontFamily: string;
  fontSize: number;
  anchor: 'left' | 'centre' | 'right';
  visible: boolean;
  /** `marker-start`, `marker-mid` and `marker-end`. */
  markers: readonly [start: string, mid: string, end: string];
}

export const INITIAL_STYLE: ComputedStyle = {
  fill: 'black',
  stroke: 'none',
  color: 'black',
  fillOpacity: 1,
  strokeOpacity: 1,
  opacity: 1,
  strokeWidth: 1,
  dashes: [],
  cap: 'butt',
  join: 'miter',
  miterLimit: 4,
  evenOdd: false,
  clipEvenOdd: false,
  fontFamily: '',
  fontSize: 16,
  anchor: 'left',
  visible: true,
  markers: ['none', 'none', 'none'],
};

/** Declarations of an element: presentation attributes, style sheets, its own style, each over the one before. */
export function declarationsFor(node: XmlNode, sheet: StyleSheet): Declarations {
  const { marker, ...attributes } = node.attributes;
  // The shorthand for three properties is none that an attribute can state (SVG 1.1, 11.6.2).
  return {
    ...(marker === undefined ? node.attributes : attributes),
    ...sheet.for(node),
    ...declarationsOf(node.attributes['style'] ?? ''),
  };
}

/** The looks of an element inside another (SVG 1.1, 6 and 11). */
export function computeStyle(own: Declarations, outer: ComputedStyle, whole: number): ComputedStyle {
  const text = (name: string, standard: string): string => {
    const value = own[name];
    return value === undefined || value === 'inherit' ? standard : value;
  };
  const share = (name: string, standard: number): number => {
    const value = own[name];
    if (value === undefined || value === 'inherit') return standard;
    const number = value.trim().endsWith('%') ? parseFloat(value) / 100 : parseFloat(value);
    return Number.isFinite(number) ? Math.min(1, Math.max(0, number)) : standard;
  };
  const fontSize = Math.max(0, lengthIn(own['font-size'], outer.fontSize, outer.fontSize, outer.fontSize));
  const anchor = text('text-anchor', '');
  const marker = (at: 'start' | 'mid' | 'end', outer: string): string => text(`marker-${at}`, text('marker', outer));
  return {
    fill: text('fill', outer.fill),
    stroke: text('stroke', outer.stroke),
    color: text('color', outer.color),
    fillOpacity: share('fill-opacity', outer.fillOpacity),
    strokeOpacity: share('stroke-opacity', outer.strokeOpacity),
    opacity: outer.opacity * share('opacity', 1),
    strokeWidth: Math.max(0, lengthIn(own['stroke-width'], whole, outer.strokeWidth, fontSize)),
    dashes: own['stroke-dasharray'] === undefined ? outer.dashes : numbersIn(own['stroke-dasharray']).map(Math.abs),
    cap: oneOf(own['stroke-linecap'], CAPS, outer.cap),
    join: oneOf(own['stroke-linejoin'], JOINS, outer.join),
    miterLimit: Math.max(1, Number(text('stroke-miterlimit', '')) || outer.miterLimit),
    evenOdd: text('fill-rule', outer.evenOdd ? 'evenodd' : '') === 'evenodd',
    clipEvenOdd: text('clip-rule', outer.clipEvenOdd ? 'evenodd' : '') === 'evenodd',
    fontFamily: text('font-family', outer.fontFamily),
    fontSize,
    anchor: anchor === '' ? outer.anchor : anchor === 'middle' ? 'centre' : anchor === 'end' ? 'right' : 'left',
    visible: text('visibility', outer.visible ? 'visible' : 'hidden') === 'visible',
    markers: [marker('start', outer.markers[0]), marker('mid', outer.markers[1]), marker('end', outer.markers[2])],
  };
}

const CAPS = ['butt', 'round', 'square'] as const;
const JOINS = ['miter', 'round', 'bevel'] as const;

function oneOf<T extends string>(text: string | undefined, values: readonly T[], standard: T): T {
  return values.find((value) => value === text?.trim()) ?? standard;
}

/** What a `fill` or `stroke` comes to; `reference` looks up what `url(#…)` names. */
export function paintOf(
  paint: string,
  looks: ComputedStyle,
  opacity: number,
  reference: (id: string) => Paint | undefined,
): Paint | undefined {
  const value = paint.trim();
  if (value === 'none') return undefined;
  const url = /^url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)$/.exec(value);
  let colour: Paint | undefined;
  if (url) colour = reference(url[1]!) ?? (url[2] && url[2] !== 'none' ? colourOf(url[2]) : undefined);
  else colour = /^currentcolor$/i.test(value) ? colourOf(looks.color) : colourOf(value);
  const alpha = (colour?.alpha ?? 0) * opacity * looks.opacity;
  return colour && alpha > 0 ? { ...colour, alpha } : undefined;
}
