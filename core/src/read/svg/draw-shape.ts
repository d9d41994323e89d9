import { meanOpacity, type Gradient } from '../../drawing/gradient';
import { PLAIN_INSERT, type Entity } from '../../drawing/model';
import { apply, IDENTITY, meanScale, multiply, type Affine } from '../../geometry/affine';
import { boxOfLoops, type Box } from '../../geometry/box';
import { flattened } from '../../geometry/flatten';
import { Path } from '../../geometry/path';
import { lineReach } from '../../geometry/line-shape';
import { strokeOutline } from '../../geometry/stroke-outline';
import { plainStyle } from '../paged';
import type { Paint } from './colour';
import type { Declarations } from './css';
import { gradientPaint, type PaintedShape } from './gradient';
import { mappedPath, styleOf, withBulges, type Level, type SceneAround } from './level';
import { markerPlaces, standing, type MarkerPlace } from './markers';
import { tiled } from './pattern';
import { urlId } from './references';
import { diagonalOf } from './shapes';
import { computeStyle, declarationsFor, INITIAL_STYLE, paintOf } from './style';
import type { XmlNode } from './xml';

/** What has corners that markers stand on. */
const MARKED = new Set(['path', 'line', 'polyline', 'polygon']);
const MARKER_AT = ['start', 'mid', 'end'];
/** What a pattern that is not drawn comes to from afar. */
const [TINT, TINT_PERCENT] = [0x808080, 30];
/** Lines whose width varies by less than this share are drawn as even ones. */
const UNEVEN = 0.01;
const UNIT = { box: { xmin: 0, ymin: 0, xmax: 1, ymax: 1 }, reach: 0, map: IDENTITY };

/** Draws shapes: their fills, strokes and markers. */
export class ShapeDrawer {
  constructor(private readonly scene: SceneAround) {}

  shape(node: XmlNode, path: Path, own: Declarations, level: Level): void {
    const { looks, map, into } = level;
    if (!looks.visible || path.verbCount < 2) return;
    const places = MARKED.has(node.name) && looks.markers.some((marker) => marker !== 'none') ? markerPlaces(path) : [];
    const box = (urlId(looks.fill) ?? urlId(looks.stroke)) ? boxOfLoops(flattened(path)) : path.box;
    const reach = looks.stroke === 'none' ? 0 : lineReach(looks.strokeWidth, looks);
    const painted = { box: { ...box }, reach, map, viewport: this.scene.viewport };
    const paint = (of: string, opacity: number): Paint | undefined =>
      paintOf(of, looks, opacity, (id) => this.server(id, painted));
    const plain = new Path();
    plain.append(path);
    const mapped = mappedPath(path, map);
    const pattern = this.patternOf(looks.fill);
    const fill = pattern ? undefined : paint(looks.fill, looks.fillOpacity);
    const common = { kind: 'path' as const, handle: own['id'] ?? '', ...mapped };
    if (pattern) this.patternFill(pattern, flattened(path), painted.box, level);
    if (fill) {
      const filled = looks.evenOdd ? 'evenodd' : 'nonzero';
      into.push({ ...common, style: styleOf(level.layer, fill), filled, ...gradientOf(fill) });
    }
    const stroke = paint(looks.stroke, looks.strokeOpacity);
    const scale = own['vector-effect'] === 'non-scaling-stroke' ? 1 : meanScale(map);
    const width = looks.strokeWidth * scale;
    const uneven = isUneven(map) && own['vector-effect'] !== 'non-scaling-stroke';
    if (stroke && width > 0 && uneven) {
      const { strokeWidth, dashes } = looks;
      const outline = strokeOutline(plain, strokeWidth, looks, dashes.some((dash) => dash > 0) ? dashes : []);
      const style = styleOf(level.layer, stroke);
      into.push({ ...common, ...mappedPath(outline, map), style, filled: 'nonzero', ...gradientOf(stroke) });
    } else if (stroke && width > 0) {
      const lineType = this.scene.lineType(looks.dashes, scale * level.enlarged);
      const style = { ...styleOf(level.layer, stroke), lineType };
      const { cap, join, miterLimit } = looks;
      into.push({ ...common, style, width, shape: { cap, join, miterLimit }, ...gradientOf(stroke) });
    }
    places.forEach((place) => this.marker(looks.markers[MARKER_AT.indexOf(place.at)]!, place, level));
  }

  private patternOf(fill: string): XmlNode | undefined {
    const node = this.scene.byId.get(urlId(fill) ?? '');
    return node?.name === 'pattern' ? node : undefined;
  }

  /** Fills loops with the tiles of a pattern: a block for the tile, shown as often as it takes, in a block clipped to the loops. */
  private patternFill(pattern: XmlNode, loops: readonly number[][], box: Box, level: Level): void {
    const { looks, layer, map } = level;
    const found = this.scene.showing.has(pattern)
      ? undefined
      : tiled(pattern, this.scene.byId, box, this.scene.viewport);
    const opacity = looks.fillOpacity * looks.opacity;
    if (found === undefined || opacity === 0) return;
    const clip = loops.map((loop) => Float64Array.from(loop));
    if (typeof found === 'string') {
      this.scene.warn('svg.not-shown', found, pattern);
      const tint = { ...plainStyle(layer), colour: TINT, opacity: Math.max(1, Math.round(TINT_PERCENT * opacity)) };
      level.into.push({ kind: 'fill', style: tint, handle: '', loops: clip.map((loop) => withBulges(loop)) });
      return;
    }
    const { content, tile, contentMap } = found;
    const plane = multiply(map, found.map);
    this.scene.showing.add(pattern);
    const own = computeStyle(
      declarationsFor(content, this.scene.sheet),
      { ...INITIAL_STYLE, opacity },
      diagonalOf(this.scene.viewport),
    );
    const { xmin, ymin, xmax, ymax } = tile;
    const edge = [Float64Array.of(xmin, ymin, xmax, ymin, xmax, ymax, xmin, ymax)];
    const block = this.scene.block(edge, (into) => {
      const enlarged = level.enlarged * meanScale(plane);
      const inner = { looks: own, map: contentMap, layer, into, depth: level.depth + 1, enlarged };
      for (const child of content.children) this.scene.element(child, inner);
    });
    this.scene.showing.delete(pattern);
    if (block === undefined) return;
    const shown = this.scene.block(clip, (into) => {
      const { columns, rows, dx, dy } = found;
      const spacing = { columns, rows, columnSpacing: xmax - xmin, rowSpacing: ymax - ymin };
      const style = plainStyle(layer);
      const entity = { ...PLAIN_INSERT, ...spacing, style, handle: '', block, x: dx, y: dy };
      into.push({ kind: 'tilted', style, handle: '', map: plane, entity });
    });
    if (shown !== undefined) level.into.push({ ...PLAIN_INSERT, style: plainStyle(layer), handle: '', block: shown });
  }

  private marker(reference: string, place: MarkerPlace, level: Level): void {
    const marker = this.scene.byId.get(urlId(reference) ?? '');
    if (marker?.name !== 'marker' || this.scene.showing.has(marker)) return;
    const own = declarationsFor(marker, this.scene.sheet);
    const found = standing(own, place, level.looks.strokeWidth);
    if (!found) return;
    this.scene.showing.add(marker);
    const looks = computeStyle(
      own,
      { ...INITIAL_STYLE, opacity: level.looks.opacity },
      diagonalOf(this.scene.viewport),
    );
    const map = multiply(level.map, found.map);
    const inner = { ...level, looks, map, depth: level.depth + 1 };
    const draw = (into: Entity[]): void => {
      for (const child of marker.children) this.scene.element(child, { ...inner, into });
    };
    if (!found.clip) draw(level.into);
    else {
      const [x, y, width, height] = found.clip;
      const corners = [x, y, x + width, y, x + width, y + height, x, y + height];
      const loop = corners.flatMap((_, i) => (i % 2 ? [] : apply(map, corners[i]!, corners[i + 1]!)));
      const block = this.scene.block([Float64Array.from(loop)], draw);
      if (block !== undefined) {
        level.into.push({ ...PLAIN_INSERT, style: plainStyle(level.layer), handle: '', block });
      }
    }
    this.scene.showing.delete(marker);
  }

  /** What the gradient or pattern of an id paints a shape with; texts, which have no shape here, in one colour. */
  server(id: string, shape?: PaintedShape): Paint | undefined {
    const node = this.scene.byId.get(id);
    if (node?.name === 'pattern') {
      this.scene.warn('svg.not-shown', 'A pattern on a line or a text is shown as a grey tint.', node);
      return { colour: TINT, alpha: TINT_PERCENT / 100 };
    }
    if (node?.name !== 'linearGradient' && node?.name !== 'radialGradient') return undefined;
    const paint = gradientPaint(
      node,
      this.scene.byId,
      this.scene.sheet,
      shape ?? { ...UNIT, viewport: this.scene.viewport },
    );
    if (shape || !paint?.gradient) return paint;
    this.scene.warn('svg.not-shown', 'A text filled with a gradient is shown in its average colour.', node);
    return { colour: paint.colour, alpha: meanOpacity(paint.gradient) };
  }
}

/** True for a map under which a round pen draws lines of uneven width. */
function isUneven({ a, b, c, d }: Affine): boolean {
  const [along, across] = [Math.hypot(a, b), Math.hypot(c, d)];
  const skew = Math.abs(a * c + b * d);
  return Math.abs(along - across) > UNEVEN * along || skew > UNEVEN * along * across;
}

function gradientOf({ gradient }: Paint): { gradient?: Gradient } {
  return gradient ? { gradient } : {};
}
