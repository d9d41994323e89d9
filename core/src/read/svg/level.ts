import type { Affine } from '../../geometry/affine';
import { mapPath } from '../../geometry/map-path';
import type { Path } from '../../geometry/path';
import type { Block, Entity, Style } from '../../drawing/model';
import { plainStyle } from '../paged';
import type { ProblemCode } from '../../problem-codes';
import type { Paint } from './colour';
import type { StyleSheet } from './css';
import type { Viewport } from './shapes';
import type { ComputedStyle } from './style';
import type { XmlNode } from './xml';

/** Where an element is drawn: what it inherits, and what it is drawn into. */
export interface Level {
  looks: ComputedStyle;
  map: Affine;
  /** Index into `layers`. */
  layer: number;
  into: Entity[];
  depth: number;
  /** By how much the block that it is drawn into is enlarged where it is shown; dashes do not grow with it by themselves. */
  enlarged: number;
}

/** What drawing a part of an SVG needs of the scene around it. */
export interface SceneAround {
  readonly blocks: Map<string, Block>;
  readonly byId: ReadonlyMap<string, XmlNode>;
  readonly sheet: StyleSheet;
  readonly viewport: Viewport;
  /** Elements being shown by reference just now, which must not show themselves. */
  readonly showing: Set<XmlNode>;
  element(node: XmlNode, outer: Level): void;
  /** A name that no block has yet. */
  blockName(): string;
  /** Name of a new block with what `draw` draws into it; undefined where that is nothing. */
  block(clip: Float64Array[], draw: (into: Entity[]) => void): string | undefined;
  /** The number of a line type of these lengths, in user units, on a drawing so many times as large. */
  lineType(dashes: readonly number[], scale: number): number;
  warn(code: ProblemCode, sentence: string, node: XmlNode): void;
}

/** A block is drawn where it is referred to. */
export const NO_BLOCK = { baseX: 0, baseY: 0 };

export function styleOf(layer: number, { colour, alpha }: Paint): Style {
  return { ...plainStyle(layer), colour, ...(alpha < 0.995 && { opacity: Math.max(1, Math.round(alpha * 100)) }) };
}

export function mappedPath(path: Path, map: Affine): { verbs: Uint8Array; coords: Float64Array } {
  const { verbs, verbCount, coords, coordCount } = mapPath(path, map);
  return { verbs: verbs.slice(0, verbCount), coords: coords.slice(0, coordCount) };
}

/** A loop of x, y as one of x, y and bulge. */
export function withBulges(loop: Float64Array): Float64Array {
  return Float64Array.from({ length: (loop.length / 2) * 3 }, (_, i) =>
    i % 3 === 2 ? 0 : loop[Math.floor(i / 3) * 2 + (i % 3)]!,
  );
}
