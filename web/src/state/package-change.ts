import type { PackageChange } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';

/** Everything of a package that is edited here, as it is sent to the server. */
export function packageChange({ name, order, bundling, recipe, names }: SheetPackage): PackageChange {
  return { name, order, bundling, recipe, names: { file: names.file, folder: names.folder, bundle: names.bundle } };
}
