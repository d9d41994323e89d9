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

/** Things that have names, as a choice by their ids. */
export function optionsByName(items: readonly { id: string; name: string }[]): { value: string; words: string }[] {
  return items.map(({ id, name }) => ({ value: id, words: name }));
}

/** Sheets as a choice by their ids: `A-101 Ground floor`. */
export function sheetOptions(
  sheets: readonly Pick<Sheet, 'id' | 'number' | 'title'>[],
): { value: string; words: string }[] {
  return sheets.map(({ id, number, title }) => ({ value: id, words: `${number} ${title}`.trim() }));
}

/** Projects as a choice by their ids: `2417 Tern Quay Ferry Terminal`. */
export function projectOptions(
  projects: readonly { id: string; number: string; name: string }[],
): { value: string; words: string }[] {
  return optionsByName(projects.map(({ id, number, name }) => ({ id, name: `${number} ${name}`.trim() })));
}
