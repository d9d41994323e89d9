import type { PackageChange } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';

/** Everything of a package that is edited here, as it is sent to the server. */
export function packageChange({ id: _, names, tiles, beside, ...rest }: SheetPackage): PackageChange {
  const { file, folder, bundle } = names;
  return { ...rest, names: { file, folder, bundle }, tiles: tiles ?? null, beside: beside ?? null };
}

/** A package with some of it changed. */
export function withChange(pack: SheetPackage, { tiles, beside, ...change }: PackageChange): SheetPackage {
  const changed = { ...pack, ...change, ...(tiles && { tiles }), ...(beside && { beside }) };
  if (tiles === null) delete changed.tiles;
  if (beside === null) delete changed.beside;
  return changed;
}
