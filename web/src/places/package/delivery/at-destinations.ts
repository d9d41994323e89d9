import { computed, inject, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { isDeliveryOver, type RunInfo } from '@folvex/contract';
import { sameValue, takenPaths } from '@folvex/core';
import { Lookups } from '../../../state/lookups/lookups';
import { projectFeature } from '../../../state/project/project.reducer';
import type { PlannedRun } from '../../../engine/plan-protocol';

/** What would be written, and the run that wrote last. */
export interface Outgoing {
  output: Signal<PlannedRun | null>;
  run: Signal<RunInfo | null>;
}

/** What is at the destinations of a package already, asked for again when that may have changed. To be called where things are injected. */
export function destinationsOf({ output, run }: Outgoing) {
  const project = inject(Store).selectSignal(projectFeature.selectId);
  const query = computed(
    () => {
      const [planned, open] = [output(), project()];
      const resolved = planned?.destinations ?? [];
      const destinations = resolved.flatMap((one) => (one.ok ? [one.value] : []));
      // A rule that cannot be read is a finding; the others are looked at again once it can be.
      if (!planned || open === null || destinations.length === 0 || destinations.length < resolved.length)
        return undefined;
      const paths = planned.files.map(({ path }) => path);
      return { project: open, destinations, paths, after: writtenBy(run()) };
    },
    // Most edits of a package change neither.
    { equal: sameValue },
  );
  const { answer } = inject(Lookups).of('atDestinations', query);
  return {
    /** Where each destination is, or why it cannot be looked at; none until that is known. */
    where: computed(() => (answer() ?? []).map((one) => ('problem' in one ? one.problem.sentence : one.where))),
    /** What is already at each destination of the files of the plan; undefined until it is known. */
    /** What those tell of their paper that are plotters; undefined until it is known. */
    plotters: computed(() => answer()?.map((one) => ('problem' in one ? undefined : one.plotter))),
    there: computed(() => answer()?.map((one) => ('problem' in one ? undefined : takenPaths(one)))),
  };
}

/** Other once a run is over, and again once its deliveries are: they go on when the run is over. */
function writtenBy(run: RunInfo | null): string {
  return run ? `${run.finishedAt} ${run.deliveries.every(isDeliveryOver)}` : '';
}
