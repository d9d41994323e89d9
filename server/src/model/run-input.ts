import type { Lock } from '@folvex/press';
import type {
  Destination,
  Group,
  OutputPlan,
  ProjectFacts,
  Recipe,
  Sheet,
  SheetContext,
  SheetPackage,
} from '@folvex/core';

/** A run's inputs, frozen: it can be made again from them at any time. */
export interface RunInput {
  project: ProjectFacts;
  package: SheetPackage;
  recipe: Recipe;
  /** The sheets of the package. */
  sheets: Sheet[];
  /** The groups of the project, for the outline. */
  groups?: Group[];
  /** What each sheet shows of those around it, by id; runs of an early version have none. */
  contexts?: Record<string, SheetContext>;
  /** The drawings they show; bytes by hash. */
  drawings: { id: string; name: string; hash: string; unit: string | null; references: string[] }[];
  plan: OutputPlan;
  /** Day of the run, YYYY-MM-DD; absent in runs of an early version. */
  runDate?: string;
  /** Where it is delivered to, with its rules resolved; absent: nowhere. */
  destinations?: Destination[];
  /** What its files are protected by; absent: nothing. */
  lock?: Lock;
}
