import { formatScale, type PaperSize, type Scale } from '@folvex/core';

/** What a scale comes to on a paper, in words, and whether a sheet can be made of it. */
export interface ScaleFit {
  words: string;
  placeable: boolean;
  fits: boolean;
}

/** Says what a drawing of a real size (mm) measures at a scale, and whether the room holds it. */
export function judgeFit(real: PaperSize | undefined, room: PaperSize, scale: Scale | undefined): ScaleFit {
  if (!real) return { words: 'State the unit of the drawing first.', placeable: false, fits: false };
  if (scale === undefined) {
    return { words: 'Write a scale like 1:50, 2:1 or 1/8" = 1\'-0".', placeable: false, fits: false };
  }
  const [width, height] = [real.width * scale, real.height * scale].map((mm) => Math.round(mm));
  const measures = `At ${formatScale(scale)} the drawing measures ${width} × ${height} mm`;
  const free = `${Math.floor(room.width)} × ${Math.floor(room.height)} mm`;
  const fits = real.width * scale <= room.width && real.height * scale <= room.height;
  return {
    words: fits ? `${measures}; the sheet has room for ${free}.` : `${measures}, but the sheet has room for ${free}.`,
    placeable: true,
    fits,
  };
}
