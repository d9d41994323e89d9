import { createActionGroup, props } from '@ngrx/store';
import type { PackageChange } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';

export const PackageActions = createActionGroup({
  source: 'Packages',
  events: {
    'Package chosen': props<{ packageId: string }>(),
    'Package asked for': props<{ name: string; like?: string }>(),
    'Removal asked for': props<{ packageId: string }>(),
    'Package removed': props<{ packageId: string }>(),
    'Package created': props<{ pack: SheetPackage }>(),
    'Package edited': props<{ packageId: string; change: PackageChange }>(),
    /** `sent`: the package as it was when it was sent. */
    'Package saved': props<{ pack: SheetPackage; sent: SheetPackage }>(),
    /** The package as it is on the server, after an edit of it was refused; null where it is gone. */
    'Package shown anew': props<{ packageId: string; pack: SheetPackage | null }>(),
    /** From here on edits of a package are for its next runs only. */
    'Trial begun': props<{ packageId: string }>(),
    'Trial ended': props<{ packageId: string; keep: boolean }>(),
  },
});
