import type { DrawingViewport } from './drawing-protocol';

/** What of a page is seen, mm: xmin, ymin, xmax, ymax. */
export function visibleBox({ x, y, scale, widthPx, heightPx }: DrawingViewport): [number, number, number, number] {
  const [w, h] = [widthPx / scale / 2, heightPx / scale / 2];
  return [x - w, y - h, x + w, y + h];
}
