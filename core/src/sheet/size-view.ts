import { spaceOf, type Drawing, type Space } from '../drawing/model';
import { multiply, rotationAbout, type Affine } from '../geometry/affine';
import { boxOfLoops, expanded, height, mappedBox, width, type Box } from '../geometry/box';
import { fittingScale, parseScale, type Scale } from '../measure/scale';
import { MM_PER_UNIT } from '../measure/units';
import { ProblemError } from '../problem';
import { viewSizeIn } from './areas';
import { refuse, type ComposeInput, type PlacedView } from './composed';
import { visibleExtents } from './extents';
import type { Sheet, View } from './model';
import { windowToPaper } from './place-view';

/** Space left beyond a view of everything, mm. */
const EDGE_MM = 2;

/** A view with what it shows, before there is a paper for it; its scale is undefined where it is to be fitted. */
export interface SizedView {
  view: View;
  drawing: Drawing;
  mmPerUnit: number;
  space: Space;
  window: Box;
  scale: Scale | undefined;
}

/** Finds what a view shows. Throws a `ProblemError` where that is not there, shows nothing or has no scale. */
export function sizeView(view: View, { sheet, source, fonts }: ComposeInput): SizedView {
  const found = source(view.drawing, view.held);
  if (!found) {
    throw refuse(
      'sheet.drawing',
      `View ${view.id} shows the drawing "${view.drawing}", which does not exist; add it or choose another.`,
      sheet,
    );
  }
  const space = spaceOf(found.drawing, view.space);
  if (!space) {
    const names = found.drawing.spaces.map((s) => s.name).join(', ');
    throw refuse(
      'sheet.space',
      `View ${view.id} shows "${view.space}" of ${found.drawing.name}, which has only ${names}.`,
      sheet,
    );
  }
  const hidden = new Set(view.layersOff.map((name) => name.toLowerCase()));
  const within = view.outline && boxOfLoops([view.outline.flat()]);
  const window =
    view.window === 'extents'
      ? turnedExtents(view, within ?? visibleExtents(found.drawing, space.entities, fonts, hidden))
      : { xmin: view.window[0], ymin: view.window[1], xmax: view.window[2], ymax: view.window[3] };
  if (!window || !(width(window) > 0 || height(window) > 0)) {
    throw refuse(
      'sheet.window',
      `View ${view.id} of ${found.drawing.name} shows nothing; choose a window with something visible in it.`,
      sheet,
    );
  }
  const scale = view.scale.trim().toLowerCase() === 'fit' ? undefined : parseScale(view.scale);
  if (scale === undefined && view.scale.trim().toLowerCase() !== 'fit') {
    throw refuse('sheet.scale', `"${view.scale}" is not a scale; write it like 1:50, 1/8" = 1'-0" or fit.`, sheet);
  }
  if (!found.unit) {
    const { name } = found.drawing;
    const sentence = `${name} does not say what unit it is drawn in; state it (mm, cm, m, km, in or ft).`;
    throw new ProblemError({ code: 'drawing.unit', sentence, place: { file: name, sheet: sheet.number } });
  }
  return { view, drawing: found.drawing, mmPerUnit: MM_PER_UNIT[found.unit], space, window, scale };
}

/** Gives a view its scale and its place (in the area's middle, if it has none); throws a `ProblemError` where it fits at no scale. */
export function placeOnPaper(item: SizedView, area: Box, sheet: Sheet): PlacedView {
  const mm = item.mmPerUnit;
  const real = { width: width(item.window) * mm, height: height(item.window) * mm };
  const scale = item.scale ?? fittingScale(real, viewSizeIn(area));
  if (scale === undefined) {
    throw refuse(
      'sheet.fit',
      `View ${item.view.id} fits the paper at no standard scale; choose a larger paper or a smaller window.`,
      sheet,
    );
  }
  const size = { width: real.width * scale, height: real.height * scale };
  const [x, y] =
    item.view.at === 'centre'
      ? [(area.xmin + area.xmax - size.width) / 2, (area.ymin + area.ymax - size.height) / 2]
      : item.view.at;
  const box = { xmin: x, ymin: y, xmax: x + size.width, ymax: y + size.height };
  const upright = windowToPaper(item.window, mm, scale, x, y);
  return { view: item.view, scale, box, toPaper: multiply(upright, turned(item.view, item.window)) };
}

/** A view of everything visible must not cut the outer lines along their middle. */
export function clipOf(item: SizedView, box: Box): Box {
  return item.view.window === 'extents' ? expanded(box, EDGE_MM) : box;
}

/** Turns a drawing about the middle of a window, as a view has it. */
function turned({ rotation: degrees = 0 }: View, { xmin, ymin, xmax, ymax }: Box): Affine {
  return rotationAbout((degrees * Math.PI) / 180, (xmin + xmax) / 2, (ymin + ymax) / 2);
}

/** The box around all that is visible, once it is turned. */
function turnedExtents(view: View, extents: Box | undefined): Box | undefined {
  return view.rotation && extents ? mappedBox(turned(view, extents), extents) : extents;
}
