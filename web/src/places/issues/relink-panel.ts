import { ChangeDetectionStrategy, Component, computed, OnDestroy, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { proxy, wrap, type Remote } from 'comlink';
import {
  readRenameTable,
  relinkPlan,
  type LinkedFile,
  type PlannedLink,
  type Problem,
  type RenameRule,
} from '@folvex/core';
import type { GivenFile, RelinkEngine } from '../../engine/relink-protocol';
import { startRelinkWorker } from '../../engine/start-worker';
import { countOf } from '../../ui/words';
import * as yup from 'yup';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatTableModule } from '@angular/material/table';
import { ChoiceField } from '../../forms/choice-field';
import { NumberField } from '../../forms/number-field';
import { TextField } from '../../forms/text-field';

const STATES: Readonly<Record<PlannedLink['state'], string>> = {
  dangling: 'leads nowhere',
  suggested: 'by its sheet number',
  repaired: 'repaired',
  works: 'works',
};
const ORDER = Object.keys(STATES) as PlannedLink['state'][];
const MAX_SHOWN = 300;

/** Mends the links of a set of PDFs whose files were renamed, and renames them with their links. Nothing is sent away. */
@Component({
  selector: 'fx-relink-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatCheckbox, MatTableModule, NumberField, TextField],
  templateUrl: './relink-panel.html',
  styleUrl: './relink-panel.scss',
})
export class RelinkPanel implements OnDestroy {
  protected readonly columns = ['file', 'target', 'state', 'to'];
  protected readonly letters = signal('');
  protected readonly lettersOptions = [
    { value: '', words: 'unchanged' },
    { value: 'upper', words: 'UPPER CASE' },
    { value: 'lower', words: 'lower case' },
  ];
  protected readonly spacesSchema = yup.string().max(5, 'Type at most 5 characters.');

  private worker: Worker | undefined;
  private engine: Remote<RelinkEngine> | undefined;
  /** Counts what was begun. */
  private works = 0;
  protected readonly files = signal<readonly LinkedFile[]>([]);
  protected readonly problems = signal<readonly Problem[]>([]);
  /** What is being done, with how far it is; blank when nothing is. */
  protected readonly busy = signal('');
  protected readonly over = signal(false);
  protected readonly rule = signal<RenameRule>({});
  protected readonly table = signal<[string, string][]>([]);
  protected readonly rename = signal(false);
  protected readonly plan = computed(() =>
    relinkPlan(this.files(), { rule: this.rule(), table: this.table(), rename: this.rename() }),
  );
  protected readonly links = computed(() =>
    [...this.plan().links]
      .sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state))
      .slice(0, MAX_SHOWN)
      .map((link) => ({ ...link, words: STATES[link.state] })),
  );
  protected readonly summary = computed(() => {
    const { files, links } = this.plan();
    const count = (state: PlannedLink['state']): number => links.filter((link) => link.state === state).length;
    const states = ORDER.filter((state) => count(state) > 0).map((state) => `${count(state)} ${STATES[state]}`);
    const renamed = files.filter(({ from, to }) => from !== to).length;
    const names = renamed ? `; ${countOf(renamed, 'file')} renamed` : '';
    return `${countOf(files.length, 'file')}, ${countOf(links.length, 'link')}${states.length ? `: ${states.join(', ')}` : ''}${names}.`;
  });

  ngOnDestroy(): void {
    this.worker?.terminate();
  }

  protected change(change: Partial<Record<keyof RenameRule, string>>): void {
    const next: Record<string, unknown> = { ...this.rule() };
    for (const [key, typed] of Object.entries(change)) {
      if (typed === '') delete next[key];
      else next[key] = key === 'removeFirst' ? Math.max(0, Math.floor(Number(typed)) || 0) : typed;
    }
    this.rule.set(next);
  }

  protected async readTable(list: FileList | null): Promise<void> {
    if (list?.[0]) this.table.set(readRenameTable(await list[0].text()));
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    event.stopPropagation();
    this.over.set(false);
    void this.take([...(event.dataTransfer?.files ?? [])]);
  }

  protected async take(list: readonly File[]): Promise<void> {
    if (list.length === 0) return;
    this.busy.set('Reading …');
    try {
      const given: GivenFile[] = [];
      for (const file of list) {
        // A chosen folder gives the path of each file in it.
        const path = file.webkitRelativePath.split('/').slice(1).join('/') || file.name;
        given.push({ path, bytes: new Uint8Array(await file.arrayBuffer()) });
      }
      const looked = await this.started().look(given, proxy(this.progress('Looking at')));
      this.files.set(looked.files);
      this.problems.set(looked.problems);
    } catch {
      this.stop();
      const sentence = 'The files could not be read; choose them again, or fewer at a time.';
      this.problems.set([{ code: 'relink.read', sentence, place: {} }]);
    }
    this.busy.set('');
  }

  protected async apply(): Promise<void> {
    this.busy.set('Writing …');
    const bytes = await this.started()
      .apply(this.plan(), proxy(this.progress('Writing')))
      .catch(() => undefined);
    this.busy.set('');
    if (!bytes) return;
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([bytes], { type: 'application/zip' }));
    link.download = 'relinked.zip';
    link.click();
    URL.revokeObjectURL(link.href);
  }

  /** Gives up what is being done; what was read is gone with its thread. */
  protected stop(): void {
    this.worker?.terminate();
    this.worker = this.engine = undefined;
    this.files.set([]);
    this.busy.set('');
  }

  /** Progress of work that is over comes too late, and is not shown. */
  private progress(what: string): (done: number, all: number) => void {
    const work = ++this.works;
    return (done, all) => {
      if (work === this.works && this.busy()) this.busy.set(`${what} ${done} of ${all} …`);
    };
  }

  private started(): Remote<RelinkEngine> {
    this.worker ??= startRelinkWorker();
    return (this.engine ??= wrap<RelinkEngine>(this.worker));
  }
}
