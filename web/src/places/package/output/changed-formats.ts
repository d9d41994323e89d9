import type { ExtraFormats } from '@folvex/core';

/** What is to be changed, by key. */
export type FormatsChange = Partial<Record<keyof ExtraFormats, unknown>>;

/** The other formats of a package with some settings changed; what is undefined or off is not stated. */
export function changedFormats(formats: ExtraFormats, change: FormatsChange): ExtraFormats {
  const stated = Object.entries({ ...formats, ...change }).filter(
    ([, value]) => value !== undefined && value !== false,
  );
  return Object.fromEntries(stated) as unknown as ExtraFormats;
}
