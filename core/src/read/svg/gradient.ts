import { colourOf, type Rgba } from './colour';
import { declarationsFor } from './style';
import type { StyleSheet } from './css';
import type { XmlNode } from './xml';

/** What a pattern comes to from afar. */
const PATTERN: Rgba = { colour: 0x808080, alpha: 0.3 };
const MAX_REFERENCES = 10;

/** A gradient as the average of its colours, as plotted gradients of other formats are; a pattern as a grey tint. */
export function averageOf(node: XmlNode, byId: ReadonlyMap<string, XmlNode>, sheet: StyleSheet): Rgba | undefined {
  if (node.name === 'pattern') return PATTERN;
  if (node.name !== 'linearGradient' && node.name !== 'radialGradient') return undefined;
  let stops: XmlNode[] = [];
  let from: XmlNode | undefined = node;
  for (let i = 0; from && stops.length === 0 && i < MAX_REFERENCES; i++) {
    stops = from.children.filter(({ name }) => name === 'stop');
    from = byId.get((from.attributes['href'] ?? '').slice(1));
  }
  const colours = stops.flatMap((stop): Rgba[] => {
    const own = declarationsFor(stop, sheet);
    const colour = colourOf(own['stop-color'] ?? 'black');
    const opacity = Number(own['stop-opacity'] ?? 1);
    return colour ? [{ colour: colour.colour, alpha: colour.alpha * (Number.isFinite(opacity) ? opacity : 1) }] : [];
  });
  if (colours.length === 0) return undefined;
  const mean = (part: (colour: Rgba) => number): number =>
    colours.reduce((sum, colour) => sum + part(colour), 0) / colours.length;
  const channel = (shift: number): number => Math.round(mean(({ colour }) => (colour >> shift) & 0xff)) << shift;
  return { colour: channel(16) | channel(8) | channel(0), alpha: mean(({ alpha }) => alpha) };
}
