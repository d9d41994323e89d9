import type { Canvas2D, HiddenCanvas } from '@folvex/core';

/** A canvas that is not seen; the same as what another one draws it by. */
export function hiddenCanvas(width: number, height: number): HiddenCanvas {
  const image = new OffscreenCanvas(width, height);
  return { context: image.getContext('2d')! as unknown as Canvas2D, image };
}
