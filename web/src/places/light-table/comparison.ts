import { computed, effect, inject, resource, type Signal } from '@angular/core';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { PageComparer } from './page-comparer';
import { PdfFile } from './pdf-file';
import { comparedRuns, positionOf, sheetAt, type PagePosition } from '../../state/runs/run-pairs';

/** What is looked at, and what it is compared with. */
export interface ComparedView {
  run: Signal<RunInfo | null>;
  earlier: Signal<RunInfo | null>;
  position: Signal<PagePosition>;
  /** The file on the table, once it is open. */
  file: Signal<PdfFile | null>;
  /** Width of the page as it is shown, pixels. */
  shownPx: Signal<number | undefined>;
}

/** What became of a run, and of the page shown, since an earlier one. To be called where things are injected. */
export function comparison({ run, earlier, position, file, shownPx }: ComparedView) {
  const comparer = inject(PageComparer);
  const runs = computed(() => {
    const [now, before] = [run(), earlier()];
    return now && before && now.id !== before.id ? comparedRuns(now, before) : undefined;
  });
  const sheet = computed(() => (run() ? sheetAt(run()!, position()) : undefined));
  const state = computed(() => runs()?.states.get(sheet() ?? ''));
  /** Where the page shown lies in the earlier run, if it is another one there. */
  const then = computed(() => {
    const [before, id] = [earlier(), sheet()];
    return before && id && state() === 'changed' ? positionOf(before, id) : undefined;
  });
  const url = computed(() => (then() ? path(ROUTES.runFile, { run: earlier()!.id, index: then()!.file }) : undefined));
  const opened = resource({ params: () => url(), loader: ({ params }) => PdfFile.open(params) });
  const before = computed(() => (opened.hasValue() ? opened.value() : null));
  effect((onCleanup) => {
    const open = before();
    onCleanup(() => open?.close());
  });
  const compared = resource({
    params: () => {
      const [now, was, at, px] = [file(), before(), then(), shownPx()];
      if (!now || !was || !at || px === undefined) return undefined;
      return { after: { file: now, page: position().page }, before: { file: was, page: at.page }, px };
    },
    loader: ({ params }) => comparer.compare(params.before, params.after, params.px),
  });
  return {
    runs,
    state,
    /** Null where the papers differ; undefined until it is known. */
    page: computed(() => (compared.hasValue() ? compared.value() : undefined)),
    /** Why the page cannot be compared; empty where it can. */
    trouble: computed(() => {
      if (opened.error()?.name === 'PasswordException')
        return 'The file of then is protected by a password; choose that run above to look at it.';
      if (opened.error()) return 'The file of then could not be opened; it may have been removed from the store.';
      return compared.error() ? 'The two pages could not be laid over each other; turn the page and come back.' : '';
    }),
  };
}
