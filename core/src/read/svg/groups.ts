import { apply, IDENTITY, inverse, multiply, scaling, translation } from '../../geometry/affine';
import { PLAIN_INSERT, type Block, type Entity } from '../../drawing/model';
import { plainStyle } from '../paged';
import { blackBox, boundsOf } from './bounds';
import type { Declarations } from './css';
import { NO_BLOCK, type Level, type SceneAround } from './level';
import { lengthIn } from './numbers';
import { targetOf, urlId } from './references';
import { diagonalOf } from './shapes';
import { computeStyle, declarationsFor, INITIAL_STYLE } from './style';
import type { XmlNode } from './xml';

/** Deeper groups are left out, so that none is too deep for the stack. */
export const DEEPEST = 400;
/** What of an SVG is not drawn by itself. */
export const NEVER_DRAWN = new Set([
  '',
  'clipPath',
  'defs',
  'desc',
  'filter',
  'linearGradient',
  'marker',
  'mask',
  'metadata',
  'namedview',
  'pattern',
  'radialGradient',
  'style',
  'symbol',
  'title',
]);
const GROUPS = new Set(['a', 'g', 'svg', 'symbol']);

/** Draws groups that are see-through as a whole, and masks. */
export class GroupDrawer {
  constructor(private readonly scene: SceneAround) {}

  /**
   * Draws what is see-through as a whole, or masked, into a block of its own. What has a single part is as see-through by
   * itself.
   */
  draw(own: Declarations, level: Level, node: XmlNode, draw: (level: Level) => void): void {
    const mask = this.maskOf(own['mask'], node);
    const { opacity } = level.looks;
    if (!mask && (opacity === 1 || opacity === 0 || !this.hasParts(node, level.looks))) return draw(level);
    if (opacity === 0) return;
    const entities: Entity[] = [];
    draw({ ...level, looks: { ...level.looks, opacity: 1 }, into: entities });
    if (entities.length === 0) return;
    // A group for each: readers of PDF differ in whether the opacity of a group applies to its mask too.
    let shown = entities;
    if (mask) shown = this.group(100, [...this.maskEntity(mask, level, entities), ...entities], level.layer);
    if (opacity < 1) shown = this.group(Math.max(1, Math.round(opacity * 100)), shown, level.layer);
    level.into.push(...shown);
  }

  /** A reference to a new block whose content is a group with an opacity in per cent. */
  private group(opacity: number, entities: Entity[], layer: number): Entity[] {
    const block: Block = { ...NO_BLOCK, name: this.scene.blockName(), entities, group: { opacity } };
    this.scene.blocks.set(block.name, block);
    return [{ ...PLAIN_INSERT, style: plainStyle(layer), handle: '', block: block.name }];
  }

  private maskOf(stated: string | undefined, node: XmlNode): XmlNode | undefined {
    const mask = this.scene.byId.get(urlId(stated) ?? '');
    if (mask?.name !== 'mask' || this.scene.showing.has(mask)) return undefined;
    const kind = declarationsFor(mask, this.scene.sheet)['mask-type']?.trim();
    if (kind !== 'alpha') return mask;
    this.scene.warn('svg.not-shown', 'An alpha mask is not applied; what it masks is shown whole.', node);
    return undefined;
  }

  /** The mask of what was drawn as a block of its own (SVG 1.1, 14.4): nothing shows outside its area. */
  private maskEntity(mask: XmlNode, level: Level, masked: readonly Entity[]): Entity[] {
    const { attributes } = mask;
    const box = boundsOf(masked, this.scene.blocks, inverse(level.map));
    const inBox = attributes['maskUnits'] !== 'userSpaceOnUse';
    const [wide, high] = [box.xmax - box.xmin, box.ymax - box.ymin];
    const length = (name: string, whole: number, side: number, standard: number): number =>
      inBox ? lengthIn(attributes[name], 1, standard) * side : lengthIn(attributes[name], whole, standard * whole);
    const { width, height } = this.scene.viewport;
    const x = length('x', width, wide, -0.1) + (inBox ? box.xmin : 0);
    const y = length('y', height, high, -0.1) + (inBox ? box.ymin : 0);
    const [right, top] = [x + length('width', width, wide, 1.2), y + length('height', height, high, 1.2)];
    const corners: [number, number][] = [
      [x, y],
      [right, y],
      [right, top],
      [x, top],
    ];
    const edge = Float64Array.from(corners.flatMap(([x, y]) => apply(level.map, x, y)));
    const content = attributes['maskContentUnits'] === 'objectBoundingBox';
    const own = content ? multiply(translation(box.xmin, box.ymin), scaling(wide, high)) : IDENTITY;
    const looks = computeStyle(declarationsFor(mask, this.scene.sheet), INITIAL_STYLE, diagonalOf(this.scene.viewport));
    const block: Block = { ...NO_BLOCK, name: this.scene.blockName(), entities: [], clip: [edge], group: 'mask' };
    this.scene.blocks.set(block.name, block);
    this.scene.showing.add(mask);
    const inner = { ...level, looks, map: multiply(level.map, own), into: block.entities, depth: level.depth + 1 };
    for (const child of mask.children) this.scene.element(child, inner);
    this.scene.showing.delete(mask);
    // An empty mask hides all; a group has its mask only where something is in it.
    if (block.entities.length === 0) block.entities.push(blackBox(edge, level.layer));
    return [{ ...PLAIN_INSERT, style: plainStyle(level.layer), handle: '', block: block.name }];
  }

  /** True for an element that is drawn in several parts, one of which would show through another. */
  private hasParts(node: XmlNode, { fill, stroke, markers }: Level['looks']): boolean {
    let members: readonly XmlNode[] = [node];
    for (let depth = 0; depth < DEEPEST; depth++) {
      const [only] = members;
      if (members.length !== 1) return members.length > 1;
      const inner = this.membersOf(only!);
      if (inner.length === 0) {
        const painted = only === node && fill !== 'none' && stroke !== 'none';
        return painted || markers.some((marker) => marker !== 'none');
      }
      members = inner;
    }
    return false;
  }

  private membersOf(node: XmlNode): XmlNode[] {
    if (node.name === 'use') return [targetOf(node, this.scene.byId) ?? []].flat();
    return GROUPS.has(node.name) ? node.children.filter(({ name }) => !NEVER_DRAWN.has(name)) : [];
  }
}
