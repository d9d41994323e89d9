import type { OutputPlan, ProjectFacts, Recipe, Sheet, SheetPackage } from '@folvex/core';

/** A run's inputs, frozen: it can be made again from them at any time. */
export interface RunInput {
  project: ProjectFacts;
  package: SheetPackage;
  recipe: Recipe;
  /** The sheets of the package. */
  sheets: Sheet[];
  /** The drawings they show; bytes by hash. */
  drawings: { id: string; name: string; hash: string; unit: string | null; references: string[] }[];
  plan: OutputPlan;
}
