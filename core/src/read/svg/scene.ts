import { determinant, multiply, translation, type Affine } from '../../geometry/affine';
import { flattened } from '../../geometry/flatten';
import { mapPath } from '../../geometry/map-path';
import { Path } from '../../geometry/path';
import {
  PLAIN_INSERT,
  type Block,
  type Entity,
  type Layer,
  type LineType,
  type PictureSource,
  type TextStyle,
} from '../../drawing/model';
import type { ProblemCode } from '../../problem-codes';
import { plainLayer, plainStyle } from '../paged';
import type { Warnings } from '../warnings';
import { StyleSheet, type Declarations } from './css';
import { ShapeDrawer } from './draw-shape';
import { DEEPEST, GroupDrawer, NEVER_DRAWN } from './groups';
import { pictureIn } from './image';
import { mappedPath, NO_BLOCK, styleOf, type Level, type SceneAround } from './level';
import { lengthIn } from './numbers';
import { targetOf, urlId } from './references';
import { diagonalOf, shapePath, type Viewport } from './shapes';
import { computeStyle, declarationsFor, INITIAL_STYLE, paintOf } from './style';
import { chunksOf } from './text';
import { transformOf, viewBoxMap } from './transform';
import type { XmlNode } from './xml';

/** Elements drawn by reference at most: nested references multiply. */
const MAX_BY_REFERENCE = 200_000;
const ACTIVE = new Set(['script', 'foreignObject', 'animate', 'animateTransform', 'animateMotion', 'set', 'handler']);

/** Draws the elements of an SVG as entities of a drawing. */
export class Scene implements SceneAround {
  readonly entities: Entity[] = [];
  readonly layers: Layer[] = [plainLayer('Page')];
  readonly lineTypes: LineType[] = [{ name: 'CONTINUOUS', dashes: [] }];
  readonly textStyles: TextStyle[] = [{ name: 'STANDARD', font: '', widthFactor: 1 }];
  readonly blocks = new Map<string, Block>();
  readonly pictures: PictureSource[] = [];
  readonly sheet = new StyleSheet();
  readonly byId = new Map<string, XmlNode>();
  readonly showing = new Set<XmlNode>();
  private readonly shapes = new ShapeDrawer(this);
  private readonly groups = new GroupDrawer(this);
  private left = MAX_BY_REFERENCE;
  private named = 0;

  constructor(
    private readonly warnings: Warnings,
    readonly viewport: Viewport,
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

  element(node: XmlNode, outer: Level, atTop = false): void {
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
      looks: computeStyle(own, outer.looks, diagonalOf(this.viewport)),
      map: multiply(outer.map, transformOf(own['transform'])),
      layer,
      into: outer.into,
      depth: outer.depth + 1,
      enlarged: outer.enlarged,
    };
    if (own['filter'] !== undefined && own['filter'] !== 'none') {
      this.warn('svg.not-shown', 'The filter of an element is not shown.', node);
    }
    this.groups.draw(own, level, node, (group) =>
      this.clipped(own['clip-path'], group, node, (inner) => this.content(node, own, inner)),
    );
  }

  private content(node: XmlNode, own: Declarations, level: Level): void {
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
    if (path) this.shapes.shape(node, path, own, level);
    else this.warn('svg.not-shown', `<${node.name.slice(0, 40)}> is not shown.`, node);
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

  private text(node: XmlNode, level: Level): void {
    const { chunks, notFollowed } = chunksOf(node, level.looks, (child, outer) =>
      computeStyle(declarationsFor(child, this.sheet), outer, this.viewport.width),
    );
    for (const sentence of notFollowed) this.warn('svg.not-shown', sentence, node);
    for (const { text, x, y, looks } of chunks) {
      const colour = paintOf(looks.fill, looks, looks.fillOpacity, (id) => this.shapes.server(id));
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
    const { opacity } = level.looks;
    const style = {
      ...plainStyle(level.layer),
      ...(opacity < 1 && { opacity: Math.max(1, Math.round(opacity * 100)) }),
    };
    level.into.push({ kind: 'picture', style, handle: '', picture: index, map });
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

  blockName(): string {
    return `part ${++this.named}`;
  }

  /** Name of a new block with what `draw` draws into it; undefined where that is nothing. */
  block(clip: Float64Array[], draw: (into: Entity[]) => void): string | undefined {
    const name = this.blockName();
    const block: Block = { ...NO_BLOCK, name, entities: [], clip };
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

  lineType(dashes: readonly number[], scale: number): number {
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

  warn(code: ProblemCode, sentence: string, node: XmlNode): void {
    this.warnings.add(code, sentence, { line: node.line });
  }
}

/** True for an alternative of a `switch` that needs no extensions and is for readers of English, or for all. */
function isShowable({ name, attributes }: XmlNode): boolean {
  if (name === '' || ACTIVE.has(name) || (attributes['requiredExtensions'] ?? '').trim() !== '') return false;
  const languages = attributes['systemLanguage'];
  return languages === undefined || languages.split(',').some((language) => /^en\b/i.test(language.trim()));
}
