import { formatScale, METRIC_SCALES, type Orientation, type Sheet } from '@folvex/core';

/** Kinds of frames. */
export const FRAMES: readonly { value: Sheet['frame']; words: string }[] = [
  { value: 'iso5457', words: 'with filing margin (ISO 5457)' },
  { value: 'plain', words: 'plain' },
  { value: 'none', words: 'none' },
];

export const ORIENTATIONS: readonly { value: Orientation; words: string }[] = [
  { value: 'landscape', words: 'landscape' },
  { value: 'portrait', words: 'portrait' },
];

/** Scales offered for views, as they are written. */
export const SCALES: readonly string[] = METRIC_SCALES.filter((scale) => scale <= 1).map((scale) => formatScale(scale));
