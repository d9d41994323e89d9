import { formatScale, METRIC_SCALES, type Sheet } from '@folvex/core';

/** Kinds of frames, in words. */
export const FRAMES: readonly [Sheet['frame'], string][] = [
  ['iso5457', 'with filing margin (ISO 5457)'],
  ['plain', 'plain'],
  ['none', 'none'],
];

/** Scales offered for views, as they are written. */
export const SCALES: readonly string[] = METRIC_SCALES.filter((scale) => scale <= 1).map((scale) => formatScale(scale));
