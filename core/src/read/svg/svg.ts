import { multiply, IDENTITY, meanScale, scaling, type Affine } from '../../geometry/affine';
import type { Drawing, Entity } from '../../drawing/model';
import { SHEET_SIDE_MM } from '../../paper/sizes';
import { PLAIN_DRAWING } from '../paged';
import type { ReadResult } from '../result';
import { utf16Of } from '../recognise';
import { Warnings } from '../warnings';
import { lengthIn, numbersIn } from './numbers';
import { Scene } from './scene';
import { viewBoxMap } from './transform';
import { parseXml, type XmlNode } from './xml';

/** CSS pixels to mm (CSS Values 3, 5.2: 96 to the inch). */
const MM_PER_PX = 25.4 / 96;

/**
 * Reads an SVG: shapes, text and embedded pictures, in mm with y upwards, groups as layers. Nothing in it is run and
 * nothing is fetched. Never throws on bad input: what could be read comes back with warnings, or one refusal.
 */
export function readSvg(bytes: Uint8Array, name: string): ReadResult {
  const warnings = new Warnings(name);
  const { root, fault } = parseXml(decoded(bytes));
  if (root?.name !== 'svg') {
    const what = root ? `is XML that begins with <${root.name.slice(0, 40)}>, not an SVG` : 'holds no SVG';
    const sentence = `${name} ${what}; save the drawing as SVG again and add that file.`;
    return { ok: false, problem: { code: 'svg.not-svg', sentence, place: { file: name } } };
  }
  if (fault) {
    const sentence = `${name} is faulty at line ${fault.line}; what could be read is shown. Save it again if something is missing.`;
    warnings.add('svg.faulty', sentence, { line: fault.line });
  }
  const { width, height, map } = pageOf(root, name, warnings);
  const scene = new Scene(warnings, { width: width / MM_PER_PX, height: height / MM_PER_PX });
  scene.collect(root);
  scene.draw(root, map);
  return { ok: true, drawing: drawingOf(name, scene, width, height), warnings: warnings.list() };
}

function decoded(bytes: Uint8Array): string {
  const sixteen = utf16Of(bytes);
  const head = String.fromCharCode(...bytes.subarray(0, 200));
  const stated = /encoding\s*=\s*["']([\w-]+)["']/.exec(head)?.[1];
  try {
    return new TextDecoder(sixteen ?? stated ?? 'utf-8').decode(bytes).replace(/^\uFEFF/, '');
  } catch {
    return new TextDecoder().decode(bytes);
  }
}

/** The size of an SVG in mm and the map from its user units to mm, y upwards. */
function pageOf(root: XmlNode, name: string, warnings: Warnings): { width: number; height: number; map: Affine } {
  const { attributes } = root;
  const box = numbersIn(attributes['viewBox'] ?? '');
  const [boxWidth, boxHeight] = box.length >= 4 && box[2]! > 0 && box[3]! > 0 ? [box[2]!, box[3]!] : [300, 150];
  const stated = (value: string | undefined): boolean => value !== undefined && !value.trim().endsWith('%');
  if (!stated(attributes['width']) && !stated(attributes['height'])) {
    const sentence = `${name} does not say how large it is; a unit of it is taken as 1/96 inch. Give its view the scale that makes a known length right.`;
    warnings.add('svg.size', sentence);
  }
  const sized = (value: string | undefined): number => (stated(value) ? lengthIn(value, 0, 0) : 0);
  let [width, height] = [sized(attributes['width']), sized(attributes['height'])];
  if (!(width > 0)) width = height > 0 ? (height * boxWidth) / boxHeight : boxWidth;
  if (!(height > 0)) height = (width * boxHeight) / boxWidth;
  const most = SHEET_SIDE_MM.max / MM_PER_PX;
  if (!(Math.max(width, height) <= most)) {
    const sentence = `${name} says it is larger than ${SHEET_SIDE_MM.max / 1000} m; it is taken as ${boxWidth} × ${boxHeight} units.`;
    warnings.add('svg.absurd-size', sentence);
    [width, height] = [Math.min(boxWidth, most), Math.min(boxHeight, most)];
  }
  const view = viewBoxMap(attributes['viewBox'], attributes['preserveAspectRatio'], width, height);
  const upright: Affine = { a: 1, b: 0, c: 0, d: -1, e: 0, f: height };
  return {
    width: width * MM_PER_PX,
    height: height * MM_PER_PX,
    map: multiply(scaling(MM_PER_PX), multiply(upright, meanScale(view) > 0 ? view : IDENTITY)),
  };
}

function drawingOf(name: string, scene: Scene, width: number, height: number): Drawing {
  const entities: Entity[] = scene.entities;
  const paper = { width, height };
  return {
    ...PLAIN_DRAWING,
    name,
    format: 'SVG',
    unit: 'mm',
    layers: scene.layers,
    lineTypes: scene.lineTypes,
    textStyles: scene.textStyles,
    blocks: scene.blocks,
    pictures: scene.pictures,
    spaces: [
      { name: 'model', kind: 'model', entities },
      { name: 'Page 1', kind: 'layout', entities, plot: { paper, originX: 0, originY: 0, mmPerUnit: 1 } },
    ],
  };
}
