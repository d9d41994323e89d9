import type { SheetPackage } from '@folvex/core';
import type { PageSource } from '../../../engine/engine';
import type { PageVersion } from '../../../state/composed/composed.actions';
import type { StripPage } from '../../../state/packages/packages.selectors';

/** The pages of a strip that can be composed: sheets, and spaces of drawings that the package is saved with. */
export function pagesToCompose(
  strip: readonly StripPage[],
  saved: SheetPackage | undefined,
  sources: Readonly<Record<string, PageSource>>,
): PageVersion[] {
  return strip.flatMap(({ id, extra }): PageVersion[] => {
    const version = sources[id]?.version ?? '';
    if (!extra) return [{ id, version }];
    const known = saved?.extras?.some((one) => one.id === id);
    return saved && known && extra.kind === 'space'
      ? [{ id, version: `${saved.id} ${version}`, addedBy: saved.id }]
      : [];
  });
}
