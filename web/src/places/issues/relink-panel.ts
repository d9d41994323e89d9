import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import type { PlannedLink, RenameRule } from '@folvex/core';
import { RelinkActions } from '../../state/relink/relink.actions';
import { relinkFeature } from '../../state/relink/relink.reducer';
import { countOf } from '../../ui/words';
import * as yup from 'yup';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { MatTableModule } from '@angular/material/table';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
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
  imports: [ChoiceField, MatButton, MatCheckbox, MatIcon, MatIconButton, MatTableModule, NumberField, TextField],
  templateUrl: './relink-panel.html',
  styleUrl: './relink-panel.scss',
})
export class RelinkPanel {
  protected readonly columns = ['file', 'target', 'state', 'to'];
  protected readonly lettersOptions: readonly Choosable<RenameRule['letters']>[] = [
    { value: undefined, words: 'unchanged' },
    { value: 'upper', words: 'UPPER CASE' },
    { value: 'lower', words: 'lower case' },
  ];
  protected readonly spacesSchema = yup.string().max(5, 'Type at most 5 characters.');

  private readonly store = inject(Store);
  protected readonly files = this.store.selectSignal(relinkFeature.selectFiles);
  protected readonly problems = this.store.selectSignal(relinkFeature.selectProblems);
  protected readonly rule = this.store.selectSignal(relinkFeature.selectRule);
  protected readonly table = this.store.selectSignal(relinkFeature.selectTable);
  protected readonly rename = this.store.selectSignal(relinkFeature.selectRename);
  protected readonly plan = this.store.selectSignal(relinkFeature.selectPlan);
  private readonly work = this.store.selectSignal(relinkFeature.selectWork);
  /** What is being done, with how far it is; blank when nothing is. */
  protected readonly busy = computed(() => {
    const work = this.work();
    if (!work) return '';
    const what = work.kind === 'reading' ? 'Reading' : 'Writing';
    return work.done === 0 ? `${what} …` : `${what} ${work.done} of ${work.all} …`;
  });
  protected readonly over = signal(false);
  protected readonly links = computed(() =>
    [...this.plan().links]
      .sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state))
      .slice(0, MAX_SHOWN)
      .map((link) => ({ ...link, words: STATES[link.state] })),
  );
  /** How many links are not listed, in words: those that work come last. Blank when all are. */
  protected readonly more = computed(() => {
    const left = this.plan().links.length - MAX_SHOWN;
    return left > 0 ? `${countOf(left, 'more link is', 'more links are')} not shown.` : '';
  });
  protected readonly tableWords = computed(() => `${countOf(this.table().length, 'name')} from a table`);
  protected readonly summary = computed(() => {
    const { files, links } = this.plan();
    const count = (state: PlannedLink['state']): number => links.filter((link) => link.state === state).length;
    const states = ORDER.filter((state) => count(state) > 0).map((state) => `${count(state)} ${STATES[state]}`);
    const renamed = files.filter(({ from, to }) => from !== to).length;
    const names = renamed ? `; ${countOf(renamed, 'file')} renamed` : '';
    return `${countOf(files.length, 'file')}, ${countOf(links.length, 'link')}${states.length ? `: ${states.join(', ')}` : ''}${names}.`;
  });

  protected change(change: RenameRule): void {
    this.store.dispatch(RelinkActions.ruleChanged({ rule: { ...this.rule(), ...change } }));
  }

  protected chooseRename(rename: boolean): void {
    this.store.dispatch(RelinkActions.renamingChosen({ rename }));
  }

  protected readTable(list: FileList | null): void {
    if (list?.[0]) this.store.dispatch(RelinkActions.tableChosen({ file: list[0] }));
  }

  protected removeTable(): void {
    this.store.dispatch(RelinkActions.tableRemoved());
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    event.stopPropagation();
    this.over.set(false);
    this.take([...(event.dataTransfer?.files ?? [])]);
  }

  protected take(files: readonly File[]): void {
    if (files.length > 0) this.store.dispatch(RelinkActions.filesChosen({ files }));
  }

  protected write(): void {
    this.store.dispatch(RelinkActions.repairedFilesAskedFor());
  }

  protected dismiss(): void {
    this.store.dispatch(RelinkActions.setDismissed());
  }
}
