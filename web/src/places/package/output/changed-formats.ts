import type { ExtraFormats } from '@folvex/core';

/** The other formats of a package with some settings changed; what is undefined or off is not stated. */
export function changedFormats(
  formats: ExtraFormats,
  change: Partial<Record<keyof ExtraFormats, unknown>>,
): ExtraFormats {
  const stated = Object.entries({ ...formats, ...change }).filter(
    ([, value]) => value !== undefined && value !== false,
  );
  return Object.fromEntries(stated) as unknown as ExtraFormats;
}
