import { colourOf, type Rgba } from './colour';
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
  evenOdd: boolean;
  clipEvenOdd: boolean;
  fontFamily: string;
  fontSize: number;
  anchor: 'left' | 'centre' | 'right';
  visible: boolean;
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
  evenOdd: false,
  clipEvenOdd: false,
  fontFamily: '',
  fontSize: 16,
  anchor: 'left',
  visible: true,
};

/** Declarations of an element: presentation attributes, style sheets, its own style, each over the one before. */
export function declarationsFor(node: XmlNode, sheet: StyleSheet): Declarations {
  return { ...node.attributes, ...sheet.for(node), ...declarationsOf(node.attributes['style'] ?? '') };
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
  return {
    fill: text('fill', outer.fill),
    stroke: text('stroke', outer.stroke),
    color: text('color', outer.color),
    fillOpacity: share('fill-opacity', outer.fillOpacity),
    strokeOpacity: share('stroke-opacity', outer.strokeOpacity),
    opacity: outer.opacity * share('opacity', 1),
    strokeWidth: Math.max(0, lengthIn(own['stroke-width'], whole, outer.strokeWidth, fontSize)),
    dashes: own['stroke-dasharray'] === undefined ? outer.dashes : numbersIn(own['stroke-dasharray']).map(Math.abs),
    evenOdd: text('fill-rule', outer.evenOdd ? 'evenodd' : '') === 'evenodd',
    clipEvenOdd: text('clip-rule', outer.clipEvenOdd ? 'evenodd' : '') === 'evenodd',
    fontFamily: text('font-family', outer.fontFamily),
    fontSize,
    anchor: anchor === '' ? outer.anchor : anchor === 'middle' ? 'centre' : anchor === 'end' ? 'right' : 'left',
    visible: text('visibility', outer.visible ? 'visible' : 'hidden') === 'visible',
  };
}

/** The colour that a `fill` or `stroke` comes to; `reference` looks up what `url(#…)` names. */
export function paintOf(
  paint: string,
  looks: ComputedStyle,
  opacity: number,
  reference: (id: string) => Rgba | undefined,
): Rgba | undefined {
  const value = paint.trim();
  if (value === 'none') return undefined;
  const url = /^url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)$/.exec(value);
  let colour: Rgba | undefined;
  if (url) colour = reference(url[1]!) ?? (url[2] && url[2] !== 'none' ? colourOf(url[2]) : undefined);
  else colour = /^currentcolor$/i.test(value) ? colourOf(looks.color) : colourOf(value);
  const alpha = (colour?.alpha ?? 0) * opacity * looks.opacity;
  return colour && alpha > 0 ? { colour: colour.colour, alpha } : undefined;
}
