import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import { packageDifference, packageWith, type PackageChange } from '@folvex/contract';
import { sameValue, type SheetPackage } from '@folvex/core';
import { omitKey } from '../omit-key';
import { EditActions } from '../edits/edits.actions';
import { ProjectActions } from '../project/project.actions';
import { PackageActions } from './packages.actions';

export const packagesAdapter = createEntityAdapter<SheetPackage>();

export interface PackagesState {
  packages: EntityState<SheetPackage>;
  /** Packages as the server has them. */
  saved: Record<string, SheetPackage>;
  chosenPackage: string | null;
  /** Id of the package whose edits are not kept. */
  trial: string | null;
  /** Ids of packages whose last edit the server does not have yet. */
  unsaved: string[];
}

const initial: PackagesState = {
  packages: packagesAdapter.getInitialState(),
  saved: {},
  chosenPackage: null,
  trial: null,
  unsaved: [],
};

/** The packages of the project, as they are shown and as the server has them. */
export const packagesFeature = createFeature({
  name: 'packages',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(ProjectActions.projectArrived, (state, { info }) => ({
      ...state,
      packages: packagesAdapter.setAll(info.packages, state.packages),
      saved: Object.fromEntries(info.packages.map((pack) => [pack.id, pack])),
      trial: null,
      chosenPackage: state.chosenPackage ?? info.packages[0]?.id ?? null,
    })),
    on(PackageActions.packageChosen, (state, { packageId }) => ({ ...state, chosenPackage: packageId })),
    on(PackageActions.packageRemoved, (state, { packageId }) => without(state, packageId)),
    on(PackageActions.packageCreated, (state, { pack }) => ({
      ...asSaved(state, pack, undefined),
      chosenPackage: pack.id,
    })),
    // Shown at once; the server's answer confirms it.
    on(PackageActions.packageEdited, (state, { packageId, change }) => ({
      ...state,
      packages: withEdited(state.packages, packageId, change),
      unsaved: state.trial === packageId ? state.unsaved : [...new Set([...state.unsaved, packageId])],
    })),
    // An edit that came after this one was sent is still to be saved.
    on(PackageActions.packageSaved, (state, { pack, sent }) => {
      const next = asSaved(state, pack, sent);
      const same = sameValue(next.packages.entities[pack.id], pack);
      return { ...next, unsaved: state.unsaved.filter((id) => id !== pack.id || !same) };
    }),
    on(PackageActions.packageShownAnew, (state, { packageId, pack }) => ({
      ...(pack ? asSaved(state, pack, undefined) : without(state, packageId)),
      unsaved: state.unsaved.filter((id) => id !== packageId),
    })),
    on(EditActions.stepped, (state, { step: { pack, packGone } }) => {
      const shown = pack ? asSaved(state, pack, state.saved[pack.id]) : state;
      return packGone === undefined ? shown : without(shown, packGone);
    }),
    // What is not saved yet is to be kept: only what follows is for one run.
    on(PackageActions.trialBegun, (state, { packageId }) =>
      state.unsaved.includes(packageId) ? state : { ...state, trial: packageId },
    ),
    on(PackageActions.trialEnded, (state, { packageId, keep }) => ({
      ...state,
      trial: null,
      ...(keep
        ? { unsaved: [...new Set([...state.unsaved, packageId])] }
        : { packages: packagesAdapter.setMany([state.saved[packageId] ?? []].flat(), state.packages) }),
    })),
  ),
});

/** Packages with one of them changed. It is set anew: the adapter's own updates keep what a change takes away. */
function withEdited(packages: PackagesState['packages'], id: string, change: PackageChange): PackagesState['packages'] {
  const pack = packages.entities[id];
  return pack ? packagesAdapter.setOne(packageWith(pack, change), packages) : packages;
}

/** A package as the server has it now, with what was edited here since it was as `known`. */
function asSaved(state: PackagesState, pack: SheetPackage, known: SheetPackage | undefined): PackagesState {
  const ours = state.packages.entities[pack.id];
  const merged = ours && known ? packageWith(pack, packageDifference(known, ours)) : pack;
  // An equal package stays the same object, so that nothing that follows from it is computed again.
  const shown = sameValue(ours, merged) ? ours! : merged;
  return {
    ...state,
    packages: packagesAdapter.setOne(shown, state.packages),
    saved: { ...state.saved, [pack.id]: pack },
  };
}

function without(state: PackagesState, id: string): PackagesState {
  return {
    ...state,
    packages: packagesAdapter.removeOne(id, state.packages),
    saved: omitKey(state.saved, id),
    chosenPackage: state.chosenPackage === id ? null : state.chosenPackage,
    unsaved: state.unsaved.filter((one) => one !== id),
  };
}
