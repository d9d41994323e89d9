import type { ProjectSettings, Sheet, SheetPackage } from '@folvex/core';

/** Something before and after an edit. */
export interface Change<T> {
  before: T;
  after: T;
}

/** A sheet; null where it is not there. */
export type SheetEdit = Change<Sheet | null>;
/** A package; null where it is not there. */
export type PackageEdit = Change<SheetPackage | null>;
/** The settings of a project. */
export type SettingsEdit = Change<ProjectSettings>;
