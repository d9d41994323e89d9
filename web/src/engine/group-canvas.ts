import type { Canvas2D, GroupCanvas } from '@folvex/core';

/** A canvas that is not seen; the same as what another one draws it by. */
export function groupCanvas(width: number, height: number): GroupCanvas {
  const image = new OffscreenCanvas(width, height);
  return { context: image.getContext('2d')! as unknown as Canvas2D, image };
}
