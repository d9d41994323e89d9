import type { ProblemCode } from '../../problem-codes';
import { meanOpacity, type Gradient } from '../../drawing/gradient';
import { apply, determinant, IDENTITY, meanScale, multiply, translation, type Affine } from '../../geometry/affine';
import { boxOfLoops, type Box } from '../../geometry/box';
import { flattened } from '../../geometry/flatten';
import { Path } from '../../geometry/path';
import { strokeOutline } from '../../geometry/stroke-outline';
import {
  PLAIN_INSERT,
  type Block,
  type Entity,
  type Layer,
  type LineType,
  type PictureSource,
  type Style,
  type TextStyle,
} from '../../drawing/model';
import { plainLayer, plainStyle } from '../paged';
import type { Warnings } from '../warnings';
import { declarationsFor, INITIAL_STYLE, computeStyle, paintOf, type ComputedStyle } from './style';
import { StyleSheet, type Declarations } from './css';
import type { Paint } from './colour';
import { gradientPaint, type PaintedShape } from './gradient';
import { pictureIn } from './image';
import { markerPlaces, standing, type MarkerPlace } from './markers';
import { lengthIn } from './numbers';
import { tiled } from './pattern';
import { targetOf, urlId } from './references';
import { shapePath, type Viewport } from './shapes';
import { chunksOf } from './text';
import { transformOf, viewBoxMap } from './transform';
import type { XmlNode } from './xml';

/** Deeper groups are left out, so that none is too deep for the stack. */
const DEEPEST = 400;
/** Elements drawn by reference at most: nested references multiply. */
const MAX_BY_REFERENCE = 200_000;
/** What of an SVG is not drawn by itself. */
const NEVER_DRAWN = new Set([
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
const ACTIVE = new Set(['script', 'foreignObject', 'animate', 'animateTransform', 'animateMotion', 'set', 'handler']);

/** What has corners that markers stand on. */
const MARKED = new Set(['path', 'line', 'polyline', 'polygon']);
const MARKER_AT = ['start', 'mid', 'end'];
/** What a pattern that is not drawn comes to from afar. */
const [TINT, TINT_PERCENT] = [0x808080, 30];
/** Lines whose width varies by less than this share are drawn as even ones. */
const UNEVEN = 0.01;
const UNIT = { box: { xmin: 0, ymin: 0, xmax: 1, ymax: 1 }, map: IDENTITY };

interface Level {
  looks: ComputedStyle;
  map: Affine;
  /** Index into `layers`. */
  layer: number;
  into: Entity[];
  depth: number;
  /** By how much the block that it is drawn into is enlarged where it is shown; dashes do not grow with it by themselves. */
  enlarged: number;
}

/** Draws the elements of an SVG as entities of a drawing. */
export class Scene {
  readonly entities: Entity[] = [];
  readonly layers: Layer[] = [plainLayer('Page')];
  readonly lineTypes: LineType[] = [{ name: 'CONTINUOUS', dashes: [] }];
  readonly textStyles: TextStyle[] = [{ name: 'STANDARD', font: '', widthFactor: 1 }];
  readonly blocks = new Map<string, Block>();
  readonly pictures: PictureSource[] = [];
  private readonly sheet = new StyleSheet();
  private readonly byId = new Map<string, XmlNode>();
  private readonly showing = new Set<XmlNode>();
  private left = MAX_BY_REFERENCE;

  constructor(
    private readonly warnings: Warnings,
    private readonly viewport: Viewport,
  ) {}

  /** Finds what is referred to by id, and the style sheets. */
  collect(root: XmlNode): void {
    const waiting = [root];
    for (let node = waiting.pop(); node; node = waiting.pop()) {
      const id = node.attributes['id'];
      if (id !== undefined && !this.byId.has(id)) this.byId.set(id, node);
      if (node.name === 'style') this.sheet.add(node.children.map(({ text }) => text).join(''));
      for (let i = node.children.length - 1; i >= 0; i--) waiting.push(node.children[i]!);
    }
  }

  draw(root: XmlNode, map: Affine): void {
    const looks = computeStyle(declarationsFor(root, this.sheet), INITIAL_STYLE, this.viewport.width);
    const level: Level = { looks, map, layer: 0, into: this.entities, depth: 0, enlarged: 1 };
    for (const child of root.children) this.element(child, level, true);
  }

  private element(node: XmlNode, outer: Level, atTop = false): void {
    if (NEVER_DRAWN.has(node.name)) return;
    if (ACTIVE.has(node.name)) return this.warn('svg.active', `<${node.name}> is never run and was left out.`, node);
    if (outer.depth >= DEEPEST) {
      const sentence = `Groups nested deeper than ${DEEPEST} were left out; ungroup them in the program they come from.`;
      return this.warn('svg.too-deep', sentence, node);
    }
    if (this.showing.size > 0 && this.left-- <= 0) {
      const sentence = `More than ${MAX_BY_REFERENCE} elements are shown by reference; the rest was left out.`;
      return this.warn('svg.too-many', sentence, node);
    }
    const own = declarationsFor(node, this.sheet);
    const layer = atTop && node.name === 'g' ? this.layerOf(node) : outer.layer;
    if (own['display']?.trim() === 'none') {
      if (layer === outer.layer) return;
      // A hidden group at the top is a layer switched off: it stays there to be seen in the list.
      this.layers[layer]!.off = true;
    }
    const level: Level = {
      looks: computeStyle(own, outer.looks, this.diagonal()),
      map: multiply(outer.map, transformOf(own['transform'])),
      layer,
      into: outer.into,
      depth: outer.depth + 1,
      enlarged: outer.enlarged,
    };
    for (const name of ['mask', 'filter']) {
      if (own[name] !== undefined && own[name] !== 'none') {
        this.warn('svg.not-shown', `The ${name} of an element is not shown.`, node);
      }
    }
    this.clipped(own['clip-path'], level, node, (inner) => this.content(node, own, inner));
  }

  private content(node: XmlNode, own: Declarations, level: Level): void {
    if (this.showsThrough(own, node)) {
      const sentence = 'A semi-transparent group is shown member by member, so that members show through each other.';
      this.warn('svg.not-shown', sentence, node);
    }
    switch (node.name) {
      case 'g':
      case 'a':
        for (const child of node.children) this.element(child, level);
        return;
      case 'switch': {
        const child = node.children.find(isShowable);
        if (child) this.element(child, level);
        else this.warn('svg.not-shown', 'None of the alternatives of a <switch> can be shown.', node);
        return;
      }
      case 'svg':
        return this.nested(node, level);
      case 'use':
        return this.use(node, level);
      case 'text':
        return this.text(node, level);
      case 'image':
        return this.image(node, level);
    }
    const path = shapePath(node, this.viewport);
    if (path) this.shape(node, path, own, level);
    else this.warn('svg.not-shown', `<${node.name.slice(0, 40)}> is not shown.`, node);
  }

  /** True for a semi-transparent group of several members, each of which is shown semi-transparent by itself. */
  private showsThrough(own: Declarations, node: XmlNode): boolean {
    const opacity = parseFloat(own['opacity'] ?? '1');
    if (!(opacity > 0 && opacity < 1)) return false;
    let members: readonly XmlNode[] = [node];
    for (let depth = 0; members.length === 1 && depth < DEEPEST; depth++) members = this.membersOf(members[0]!);
    return members.length > 1;
  }

  private membersOf(node: XmlNode): XmlNode[] {
    if (node.name === 'use') return [targetOf(node, this.byId) ?? []].flat();
    return GROUPS.has(node.name) ? node.children.filter(({ name }) => !NEVER_DRAWN.has(name)) : [];
  }

  private nested(node: XmlNode, level: Level): void {
    const { attributes } = node;
    const length = (name: string, whole: number, standard: number): number =>
      lengthIn(attributes[name], whole, standard);
    const { width, height } = this.viewport;
    const place = translation(length('x', width, 0), length('y', height, 0));
    const view = viewBoxMap(
      attributes['viewBox'],
      attributes['preserveAspectRatio'],
      length('width', width, width),
      length('height', height, height),
    );
    const inner = { ...level, map: multiply(level.map, multiply(place, view)) };
    for (const child of node.children) this.element(child, inner);
  }

  private use(node: XmlNode, level: Level): void {
    const target = targetOf(node, this.byId);
    if (!target) {
      const sentence = (node.attributes['href'] ?? '').startsWith('#')
        ? 'An element refers to another that is not there; it was left out.'
        : 'An element refers to another file, which is never fetched; it was left out.';
      return this.warn('svg.reference', sentence, node);
    }
    if (this.showing.has(target)) {
      return this.warn('svg.cycle', 'An element refers to itself; the inner reference was left out.', node);
    }
    this.showing.add(target);
    const { width, height } = this.viewport;
    const place = translation(lengthIn(node.attributes['x'], width, 0), lengthIn(node.attributes['y'], height, 0));
    const inner = { ...level, map: multiply(level.map, place) };
    if (target.name === 'symbol') {
      const size = { width: node.attributes['width'] ?? '100%', height: node.attributes['height'] ?? '100%' };
      this.nested({ ...target, name: 'svg', attributes: { ...target.attributes, ...size } }, inner);
    } else this.element(target, inner);
    this.showing.delete(target);
  }

  private shape(node: XmlNode, path: Path, own: Declarations, level: Level): void {
    const { looks, map, into } = level;
    if (!looks.visible || path.verbCount < 2) return;
    const places = MARKED.has(node.name) && looks.markers.some((marker) => marker !== 'none') ? markerPlaces(path) : [];
    const box = (urlId(looks.fill) ?? urlId(looks.stroke)) ? boxOfLoops(flattened(path)) : path.box;
    const painted = { box: { ...box }, map, viewport: this.viewport };
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
    if (stroke && width > 0 && isUneven(map) && own['vector-effect'] !== 'non-scaling-stroke') {
      const { strokeWidth, dashes } = looks;
      const outline = strokeOutline(plain, strokeWidth, looks, dashes.some((dash) => dash > 0) ? dashes : []);
      const style = styleOf(level.layer, stroke);
      into.push({ ...common, ...mappedPath(outline, map), style, filled: 'nonzero', ...gradientOf(stroke) });
    } else if (stroke && width > 0) {
      const lineType = this.lineType(looks.dashes, scale * level.enlarged);
      const style = { ...styleOf(level.layer, stroke), lineType };
      const { cap, join, miterLimit } = looks;
      into.push({ ...common, style, width, shape: { cap, join, miterLimit }, ...gradientOf(stroke) });
    }
    places.forEach((place) => this.marker(looks.markers[MARKER_AT.indexOf(place.at)]!, place, level));
  }

  private patternOf(fill: string): XmlNode | undefined {
    const node = this.byId.get(urlId(fill) ?? '');
    return node?.name === 'pattern' ? node : undefined;
  }

  /** Fills loops with the tiles of a pattern: a block for the tile, shown as often as it takes, in a block clipped to the loops. */
  private patternFill(pattern: XmlNode, loops: readonly number[][], box: Box, level: Level): void {
    const { looks, layer, map } = level;
    const found = this.showing.has(pattern) ? undefined : tiled(pattern, this.byId, box, this.viewport);
    const opacity = looks.fillOpacity * looks.opacity;
    if (found === undefined || opacity === 0) return;
    const clip = loops.map((loop) => Float64Array.from(loop));
    if (typeof found === 'string') {
      this.warn('svg.not-shown', found, pattern);
      const tint = { ...plainStyle(layer), colour: TINT, opacity: Math.max(1, Math.round(TINT_PERCENT * opacity)) };
      level.into.push({ kind: 'fill', style: tint, handle: '', loops: clip.map((loop) => withBulges(loop)) });
      return;
    }
    const { content, tile, contentMap } = found;
    const plane = multiply(map, found.map);
    this.showing.add(pattern);
    const own = computeStyle(declarationsFor(content, this.sheet), { ...INITIAL_STYLE, opacity }, this.diagonal());
    const { xmin, ymin, xmax, ymax } = tile;
    const edge = [Float64Array.of(xmin, ymin, xmax, ymin, xmax, ymax, xmin, ymax)];
    const block = this.block(edge, (into) => {
      const enlarged = level.enlarged * meanScale(plane);
      const inner = { looks: own, map: contentMap, layer, into, depth: level.depth + 1, enlarged };
      for (const child of content.children) this.element(child, inner);
    });
    this.showing.delete(pattern);
    if (block === undefined) return;
    const shown = this.block(clip, (into) => {
      const { columns, rows, dx, dy } = found;
      const spacing = { columns, rows, columnSpacing: xmax - xmin, rowSpacing: ymax - ymin };
      const style = plainStyle(layer);
      const entity = { ...PLAIN_INSERT, ...spacing, style, handle: '', block, x: dx, y: dy };
      into.push({ kind: 'tilted', style, handle: '', map: plane, entity });
    });
    if (shown !== undefined) level.into.push({ ...PLAIN_INSERT, style: plainStyle(layer), handle: '', block: shown });
  }

  private marker(reference: string, place: MarkerPlace, level: Level): void {
    const marker = this.byId.get(urlId(reference) ?? '');
    if (marker?.name !== 'marker' || this.showing.has(marker)) return;
    const own = declarationsFor(marker, this.sheet);
    const found = standing(own, place, level.looks.strokeWidth);
    if (!found) return;
    this.showing.add(marker);
    const looks = computeStyle(own, { ...INITIAL_STYLE, opacity: level.looks.opacity }, this.diagonal());
    const map = multiply(level.map, found.map);
    const inner = { ...level, looks, map, depth: level.depth + 1 };
    const draw = (into: Entity[]): void => {
      for (const child of marker.children) this.element(child, { ...inner, into });
    };
    if (!found.clip) draw(level.into);
    else {
      const [x, y, width, height] = found.clip;
      const corners = [x, y, x + width, y, x + width, y + height, x, y + height];
      const loop = corners.flatMap((_, i) => (i % 2 ? [] : apply(map, corners[i]!, corners[i + 1]!)));
      const block = this.block([Float64Array.from(loop)], draw);
      if (block !== undefined) {
        level.into.push({ ...PLAIN_INSERT, style: plainStyle(level.layer), handle: '', block });
      }
    }
    this.showing.delete(marker);
  }

  private text(node: XmlNode, level: Level): void {
    const { chunks, notFollowed } = chunksOf(node, level.looks, (child, outer) =>
      computeStyle(declarationsFor(child, this.sheet), outer, this.viewport.width),
    );
    for (const sentence of notFollowed) this.warn('svg.not-shown', sentence, node);
    for (const { text, x, y, looks } of chunks) {
      const colour = paintOf(looks.fill, looks, looks.fillOpacity, (id) => this.server(id));
      if (!colour || !looks.visible) continue;
      const style = styleOf(level.layer, colour);
      const handle = node.attributes['id'] ?? '';
      // Turned upright again: entities have y upwards.
      const map = multiply(level.map, { a: 1, b: 0, c: 0, d: -1, e: x, f: y });
      if (determinant(map) === 0) continue;
      level.into.push({
        kind: 'tilted',
        style,
        handle,
        map,
        entity: {
          kind: 'text',
          style,
          handle,
          lines: [text],
          x: 0,
          y: 0,
          x2: 0,
          y2: 0,
          height: looks.fontSize,
          byEm: true,
          rotation: 0,
          widthFactor: 1,
          oblique: 0,
          backwards: false,
          upsideDown: false,
          horizontal: looks.anchor,
          vertical: 'baseline',
          wrapWidth: 0,
          lineSpacing: 1,
          textStyle: this.textStyle(looks.fontFamily),
        },
      });
    }
  }

  private image(node: XmlNode, level: Level): void {
    if (!level.looks.visible) return;
    const { width, height } = this.viewport;
    const box = {
      x: lengthIn(node.attributes['x'], width, 0),
      y: lengthIn(node.attributes['y'], height, 0),
      width: lengthIn(node.attributes['width'], width, 0),
      height: lengthIn(node.attributes['height'], height, 0),
    };
    const picture = pictureIn(node.attributes['href'] ?? '', box, node.attributes['preserveAspectRatio']);
    if (typeof picture === 'string') {
      this.warn('svg.picture', picture, node);
      const path = new Path();
      if (!(box.width > 0 && box.height > 0)) return;
      const [right, bottom] = [box.x + box.width, box.y + box.height];
      path.moveTo(box.x, box.y);
      path.lineTo(right, bottom);
      path.lineTo(right, box.y);
      path.lineTo(box.x, bottom);
      path.lineTo(box.x, box.y);
      path.lineTo(right, box.y);
      path.moveTo(right, bottom);
      path.lineTo(box.x, bottom);
      const style = plainStyle(level.layer);
      level.into.push({ kind: 'path', style, handle: '', ...mappedPath(path, level.map) });
      return;
    }
    const index = this.pictures.push(picture.source) - 1;
    const map = multiply(level.map, picture.map);
    level.into.push({ kind: 'picture', style: plainStyle(level.layer), handle: '', picture: index, map });
  }

  /** Draws what is clipped into a block of its own, and refers to that. */
  private clipped(clip: string | undefined, level: Level, node: XmlNode, draw: (level: Level) => void): void {
    const path = this.byId.get(urlId(clip) ?? '');
    if (path?.name !== 'clipPath' || this.showing.has(path)) return draw(level);
    if (path.attributes['clipPathUnits'] === 'objectBoundingBox') {
      this.warn('svg.not-shown', 'A clip stated in shares of what it clips is not followed.', node);
      return draw(level);
    }
    this.showing.add(path);
    const loops = this.clipLoops(path, multiply(level.map, transformOf(path.attributes['transform'])));
    this.showing.delete(path);
    const block = this.block(loops, (into) => draw({ ...level, into }));
    if (block === undefined) return;
    level.into.push({ ...PLAIN_INSERT, style: plainStyle(level.layer), handle: '', block });
  }

  /** Name of a new block with what `draw` draws into it; undefined where that is nothing. */
  private block(clip: Float64Array[], draw: (into: Entity[]) => void): string | undefined {
    const name = `clip ${this.blocks.size + 1}`;
    const block: Block = { name, baseX: 0, baseY: 0, entities: [], clip };
    this.blocks.set(name, block);
    draw(block.entities);
    if (block.entities.length > 0) return name;
    this.blocks.delete(name);
    return undefined;
  }

  private clipLoops(clip: XmlNode, map: Affine): Float64Array[] {
    const loops: Float64Array[] = [];
    for (const child of clip.children) {
      const target = child.name === 'use' ? targetOf(child, this.byId) : child;
      if (!target) continue;
      const path = shapePath(target, this.viewport);
      if (!path) continue;
      let inner = multiply(map, transformOf(child.attributes['transform']));
      if (child !== target) inner = multiply(inner, transformOf(target.attributes['transform']));
      for (const loop of flattened(mapPath(path, inner))) loops.push(Float64Array.from(loop));
    }
    return loops;
  }

  private layerOf(node: XmlNode): number {
    const { label, id } = node.attributes;
    const name = (label ?? node.attributes['aria-label'] ?? id ?? '').trim();
    if (!name) return 0;
    const known = this.layers.findIndex((layer) => layer.name.toLowerCase() === name.toLowerCase());
    return known >= 0 ? known : this.layers.push(plainLayer(name)) - 1;
  }

  private lineType(dashes: readonly number[], scale: number): number {
    if (dashes.length === 0 || !(dashes.reduce((sum, dash) => sum + dash, 0) > 0)) return 0;
    // An odd number of lengths is repeated once (SVG 1.1, 11.4).
    const even = dashes.length % 2 ? [...dashes, ...dashes] : dashes;
    const signed = even.map((dash, i) => (i % 2 ? -dash : dash) * scale);
    const name = signed.join(' ');
    const known = this.lineTypes.findIndex((lineType) => lineType.name === name);
    return known >= 0 ? known : this.lineTypes.push({ name, dashes: signed }) - 1;
  }

  private textStyle(family: string): number {
    const known = this.textStyles.findIndex(({ font }) => font === family);
    return known >= 0 ? known : this.textStyles.push({ name: family, font: family, widthFactor: 1 }) - 1;
  }

  /** What the gradient or pattern of an id paints a shape with; texts, which have no shape here, in one colour. */
  private server(id: string, shape?: PaintedShape): Paint | undefined {
    const node = this.byId.get(id);
    if (node?.name === 'pattern') {
      this.warn('svg.not-shown', 'A pattern on a line or a text is shown as a grey tint.', node);
      return { colour: TINT, alpha: TINT_PERCENT / 100 };
    }
    if (node?.name !== 'linearGradient' && node?.name !== 'radialGradient') return undefined;
    const paint = gradientPaint(node, this.byId, this.sheet, shape ?? { ...UNIT, viewport: this.viewport });
    if (shape || !paint?.gradient) return paint;
    this.warn('svg.not-shown', 'A text filled with a gradient is shown in its average colour.', node);
    return { colour: paint.colour, alpha: meanOpacity(paint.gradient) };
  }

  private diagonal(): number {
    return Math.hypot(this.viewport.width, this.viewport.height) / Math.SQRT2;
  }

  private warn(code: ProblemCode, sentence: string, node: XmlNode): void {
    this.warnings.add(code, sentence, { line: node.line });
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

/** A loop of x, y as one of x, y and bulge. */
function withBulges(loop: Float64Array): Float64Array {
  return Float64Array.from({ length: (loop.length / 2) * 3 }, (_, i) =>
    i % 3 === 2 ? 0 : loop[Math.floor(i / 3) * 2 + (i % 3)]!,
  );
}

/** True for an alternative of a `switch` that needs no extensions and is for readers of English, or for all. */
function isShowable({ name, attributes }: XmlNode): boolean {
  if (name === '' || ACTIVE.has(name) || (attributes['requiredExtensions'] ?? '').trim() !== '') return false;
  const languages = attributes['systemLanguage'];
  return languages === undefined || languages.split(',').some((language) => /^en\b/i.test(language.trim()));
}

function styleOf(layer: number, { colour, alpha }: Paint): Style {
  return { ...plainStyle(layer), colour, ...(alpha < 0.995 && { opacity: Math.max(1, Math.round(alpha * 100)) }) };
}

function mappedPath(path: Path, map: Affine): { verbs: Uint8Array; coords: Float64Array } {
  const { verbs, verbCount, coords, coordCount } = mapPath(path, map);
  return { verbs: verbs.slice(0, verbCount), coords: coords.slice(0, coordCount) };
}

/** Maps a path of one's own in place. */
function mapPath(path: Path, m: Affine): Path {
  const { coords } = path;
  for (let i = 0; i < path.coordCount; i += 2) {
    const [x, y] = [coords[i]!, coords[i + 1]!];
    coords[i] = m.a * x + m.c * y + m.e;
    coords[i + 1] = m.b * x + m.d * y + m.f;
  }
  return path;
}
