import type { DrawingViewport } from '../../../engine/drawing-protocol';

/** The outlook that shows a box (mm of the page) with some room around. */
export function fitToBox(
  box: readonly [number, number, number, number],
  widthPx: number,
  heightPx: number,
  room = 1.06,
): DrawingViewport {
  const [width, height] = [Math.max(1e-6, box[2] - box[0]), Math.max(1e-6, box[3] - box[1])];
  const scale = Math.min(widthPx / width, heightPx / height) / room;
  return { x: (box[0] + box[2]) / 2, y: (box[1] + box[3]) / 2, scale, widthPx, heightPx };
}

/** Zoomed by a factor so that what lies under a pixel stays there. */
export function zoomAt(outlook: DrawingViewport, factor: number, px: number, py: number): DrawingViewport {
  const [x, y] = placeAt(outlook, px, py);
  const scale = Math.min(1e4, Math.max(1e-7, outlook.scale * factor));
  const shrink = outlook.scale / scale;
  return { ...outlook, scale, x: x - (x - outlook.x) * shrink, y: y - (y - outlook.y) * shrink };
}

export function moved(outlook: DrawingViewport, dxPx: number, dyPx: number): DrawingViewport {
  return { ...outlook, x: outlook.x - dxPx / outlook.scale, y: outlook.y + dyPx / outlook.scale };
}

/** What lies under a pixel, mm of the page. */
export function placeAt({ x, y, scale, widthPx, heightPx }: DrawingViewport, px: number, py: number): [number, number] {
  return [x + (px - widthPx / 2) / scale, y - (py - heightPx / 2) / scale];
}

/** The pixel that shows a place. */
export function pixelOf({ x, y, scale, widthPx, heightPx }: DrawingViewport, mx: number, my: number): [number, number] {
  return [widthPx / 2 + (mx - x) * scale, heightPx / 2 - (my - y) * scale];
}

/** The CSS transform that moves a picture painted for one outlook to where another would show it. */
export function cssTransform(painted: DrawingViewport, wanted: DrawingViewport, ratio: number): string {
  const factor = wanted.scale / painted.scale;
  const [left, top] = pixelOf(wanted, ...placeAt(painted, 0, 0));
  return `translate(${left / ratio}px, ${top / ratio}px) scale(${factor})`;
}
