import { computed, inject, type Signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import type { RunInfo } from '@folvex/contract';
import { sameValue } from '@folvex/core';
import { Api } from '../../../state/api';
import type { Output } from '../../../state/project.selectors';

/** What would be written, and the run that wrote last. */
export interface Outgoing {
  output: Signal<Output>;
  run: Signal<RunInfo | null>;
}

/** What is at the destination of a package already, asked for again when that may have changed. To be called where things are injected. */
export function destinationOf({ output, run }: Outgoing) {
  const api = inject(Api);
  const params = computed(
    () => {
      const { destination, plan } = output();
      if (!destination?.ok) return undefined;
      return { destination: destination.value, paths: plan.files.map(({ path }) => path), after: writtenBy(run()) };
    },
    // Most edits of a package change neither.
    { equal: sameValue },
  );
  const asked = rxResource({
    params,
    stream: ({ params: { destination, paths } }) => api.atDestination(destination, paths),
  });
  const answer = computed(() => (asked.hasValue() ? asked.value() : undefined));
  return {
    /** Where the destination is; empty until it is known. */
    where: computed(() => answer()?.where ?? ''),
    /** Paths of the plan where something is already; undefined until it is known. */
    there: computed(() => answer() && new Set(answer()!.paths)),
  };
}

/** Other once a run is over, and again once its files are delivered: that goes on when the run is over. */
function writtenBy(run: RunInfo | null): unknown {
  return run && { at: run.finishedAt, delivered: run.files.every(({ delivered }) => delivered !== null) };
}
