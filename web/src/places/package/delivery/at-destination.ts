import { computed, inject, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { isDeliveryOver, type RunInfo } from '@folvex/contract';
import { sameValue } from '@folvex/core';
import { Lookups } from '../../../state/lookups/lookups';
import { projectFeature } from '../../../state/project/project.reducer';
import type { PlannedRun } from '../../../engine/plan-protocol';

/** What would be written, and the run that wrote last. */
export interface Outgoing {
  output: Signal<PlannedRun | null>;
  run: Signal<RunInfo | null>;
}

/** What is at the destination of a package already, asked for again when that may have changed. To be called where things are injected. */
export function destinationOf({ output, run }: Outgoing) {
  const project = inject(Store).selectSignal(projectFeature.selectId);
  const query = computed(
    () => {
      const [planned, open] = [output(), project()];
      if (!planned?.destination?.ok || open === null) return undefined;
      const { destination, files } = planned;
      const paths = files.map(({ path }) => path);
      return { project: open, destination: destination.value, paths, after: writtenBy(run()) };
    },
    // Most edits of a package change neither.
    { equal: sameValue },
  );
  const { answer } = inject(Lookups).of('atDestination', query);
  return {
    /** Where the destination is; empty until it is known. */
    where: computed(() => answer()?.where ?? ''),
    /** Paths of the plan where something is already; undefined until it is known. */
    there: computed(() => (answer() ? new Set(answer()!.paths) : undefined)),
  };
}

/** Other once a run is over, and again once its deliveries are: they go on when the run is over. */
function writtenBy(run: RunInfo | null): string {
  return run ? `${run.finishedAt} ${run.deliveries.every(isDeliveryOver)}` : '';
}
