import type { Lock } from '@folvex/press';
import type { Group, OutputPlan, ProjectFacts, Recipe, Sheet, SheetContext, SheetPackage } from '@folvex/core';

/** A run's inputs, frozen: it can be made again from them at any time. */
export interface RunInput {
  project: ProjectFacts;
  package: SheetPackage;
  recipe: Recipe;
  /** The sheets of the package. */
  sheets: Sheet[];
  /** Their groups, for the outline. */
  groups?: Pick<Group, 'id' | 'name'>[];
  /** What each of them shows of those around it, by id. */
  contexts: Record<string, SheetContext>;
  /** The drawings they show; bytes by hash. */
  drawings: { id: string; name: string; hash: string; unit: string | null; references: string[] }[];
  plan: OutputPlan;
  /** Where it is delivered to, below the folder that all are delivered to; absent: nowhere. */
  folder?: string;
  /** What its files are protected by; absent: nothing. */
  lock?: Lock;
}
