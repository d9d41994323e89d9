import { multiply, rotation, scaling, translation, type Affine } from '../geometry/affine';
import { mappedBox, type Box } from '../geometry/box';
import { flattened } from '../geometry/flatten';
import { Path } from '../geometry/path';
import { COLOUR_FOREGROUND, type Drawing, type PlotSettings, type Space, type ViewportEntity } from '../drawing/model';
import { resolve, topLevel } from '../drawing/resolve';
import type { PageBuilder } from '../page/builder';
import type { FontSet } from '../text/layout';
import { placeView, type ViewNotes } from './place-view';
import { drawPath } from './shapes';

const BLACK = 0x000000;
const WEIGHT_UNITS_PER_MM = 100;

/** A viewport as it came to lie on the paper. */
export interface PlacedViewport {
  /** Paper length over model length, both in mm only where the model is in mm: paper mm to a model unit. */
  mmPerModelUnit: number;
  box: Box;
  /** True where its edge is an outline that is not there: it is shown within its box. */
  outlineMissing: boolean;
}

export interface PlacedLayout {
  viewports: PlacedViewport[];
  notes: ViewNotes[];
}

/** The scales of a layout's viewports, each once, the first one first: paper mm to a model unit. */
export function viewportScales({ entities, plot }: Space): number[] {
  const scales = entities.flatMap((entity) => (entity.kind === 'viewport' ? mmPerModelUnit(entity, plot) : []));
  return [...new Set(scales)];
}

/**
 * What a unit of dashes comes to on paper, mm, in views of the model of a drawing whose dashes are measured on the paper: the
 * same as in its layouts, so that a line type looks alike in all of them. Undefined where dashes follow the scale of the
 * view: where the drawing says so, and where no layout shows the model, since it is then set up for plotting its model.
 */
export function paperDashMm({ dashesOnPaper, spaces }: Drawing): number | undefined {
  if (!dashesOnPaper) return undefined;
  return spaces.find(({ plot, entities }) => plot && entities.some(({ kind }) => kind === 'viewport'))?.plot!.mmPerUnit;
}

function mmPerModelUnit({ scale }: ViewportEntity, plot: PlotSettings | undefined): number {
  return scale * (plot?.mmPerUnit ?? 1);
}

/** Draws a layout onto a page: the model through its viewports, their borders, then what lies on the paper itself. */
export function placeLayout(
  builder: PageBuilder,
  fonts: FontSet,
  drawing: Drawing,
  space: Space,
  plot: PlotSettings,
  everything = false,
): PlacedLayout {
  const paper = multiply(translation(plot.originX, plot.originY), scaling(plot.mmPerUnit));
  const model = drawing.spaces[0]!.entities;
  const placed: PlacedLayout = { viewports: [], notes: [] };
  const { clip, weightFactor, opaque } = plot;
  if (clip) builder.clipTo(mappedBox(paper, clip));
  for (const entity of space.entities) {
    if (entity.kind !== 'viewport') continue;
    const map = multiply(paper, modelToLayout(entity));
    const box = boxOf(entity, paper);
    const hidden = new Set(entity.frozen.map((layer) => drawing.layers[layer]?.name.toLowerCase() ?? ''));
    const scale = mmPerModelUnit(entity, plot);
    const dashMm = drawing.dashesOnPaper ? plot.mmPerUnit : scale;
    const outline = entity.outline === undefined ? undefined : outlineOf(space, entity.outline, paper);
    if (outline) builder.clipToLoops(outline);
    const seen = entity.projection === undefined ? model : (drawing.projections?.[entity.projection] ?? []);
    placed.notes.push(
      placeView(builder, fonts, drawing, seen, map, box, hidden, { dashMm, everything, weightFactor, opaque }),
    );
    if (outline) builder.endClip();
    placed.viewports.push({ mmPerModelUnit: scale, box, outlineMissing: entity.outline !== undefined && !outline });
    if (entity.outline === undefined) drawBorder(builder, drawing, entity, box, weightFactor);
  }
  const own = { everything, weightFactor, opaque };
  placed.notes.push(placeView(builder, fonts, drawing, space.entities, paper, undefined, new Set(), own));
  if (clip) builder.endClip();
  return placed;
}

/**
 * Model coordinates to the layout's: turned by the twist about the target, then the view's middle to the viewport's
 * (DXF: the view centre is in display coordinates, which follow from the target and the twist).
 */
function modelToLayout(viewport: ViewportEntity): Affine {
  const { cx, cy, viewX, viewY, targetX, targetY, twist, scale } = viewport;
  const display = multiply(rotation(twist), translation(-targetX, -targetY));
  return multiply(multiply(translation(cx, cy), scaling(scale)), multiply(translation(-viewX, -viewY), display));
}

/** The loops of the entity that a viewport is cut by, mm on the paper; undefined where it is not there. */
function outlineOf(space: Space, handle: string, paper: Affine): number[][] | undefined {
  const entity = space.entities.find((other) => other.handle === handle && other.kind !== 'viewport');
  if (!entity || entity.kind === 'insert' || entity.kind === 'viewport') return undefined;
  const path = new Path();
  if (entity.kind !== 'tilted') drawPath(path, entity, paper);
  else if (entity.entity.kind !== 'insert') drawPath(path, entity.entity, multiply(paper, entity.map));
  const loops = flattened(path).filter((loop) => loop.length >= 6);
  return loops.length > 0 ? loops : undefined;
}

function boxOf({ cx, cy, width, height }: ViewportEntity, paper: Affine): Box {
  const [halfWidth, halfHeight] = [width / 2, height / 2];
  const box = { xmin: cx - halfWidth, ymin: cy - halfHeight, xmax: cx + halfWidth, ymax: cy + halfHeight };
  return mappedBox(paper, box);
}

/** The viewport's own layer hides only its border. */
function drawBorder(
  builder: PageBuilder,
  drawing: Drawing,
  { style }: ViewportEntity,
  box: Box,
  weightFactor = 1,
): void {
  const looks = resolve(drawing, style, topLevel());
  const layer = drawing.layers[looks.layer];
  if (!layer || layer.off || layer.frozen || !layer.plots) return;
  const path = new Path();
  path.moveTo(box.xmin, box.ymin);
  path.lineTo(box.xmax, box.ymin);
  path.lineTo(box.xmax, box.ymax);
  path.lineTo(box.xmin, box.ymax);
  path.close();
  const colour = looks.colour === COLOUR_FOREGROUND ? BLACK : looks.colour;
  builder.stroke(
    path,
    builder.layer(drawing.name, layer.name),
    builder.pen((weightFactor * looks.weight) / WEIGHT_UNITS_PER_MM, colour),
  );
}
