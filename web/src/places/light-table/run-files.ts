import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Store } from '@ngrx/store';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { bytesInWords } from '@folvex/core';
import { countOf, secondInWords } from '../../ui/words';
import { DeliveryList } from '../../deliveries/delivery-list';
import { PageThumb } from './page-thumb';
import type { PdfFile } from './pdf-file';
import { selectIsLead } from '../../state/session/session.reducer';
import { nameOfRun } from '../../state/runs/runs.reducer';
import type { ComparedRuns } from '../../state/runs/run-pairs';
import { RunSearch } from './run-search';
import { ChoiceField } from '../../forms/choice-field';

/** The runs of the project, and the files of the one shown with their pages. */
@Component({
  selector: 'fx-run-files',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    DeliveryList,
    MatButton,
    MatIcon,
    MatIconButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    PageThumb,
    RunSearch,
  ],
  templateUrl: './run-files.html',
  styleUrl: './run-files.scss',
})
export class RunFiles {
  protected readonly isLead = inject(Store).selectSignal(selectIsLead);
  readonly runs = input.required<readonly RunInfo[]>();
  /** The files that the run wrote besides PDF, with their paths in it. */
  readonly extraFiles = input.required<readonly (RunInfo['files'][number] & { at: number })[]>();
  readonly run = input.required<RunInfo>();
  /** The same with its files in other formats. */
  readonly whole = input.required<RunInfo>();
  readonly fileAt = input.required<number>();
  readonly page = input.required<number>();
  /** The file shown, once it is open. */
  readonly pdf = input.required<PdfFile | null>();
  /** Id of the run that this one is compared with; empty for none. */
  readonly against = input.required<string>();
  readonly compared = input.required<ComparedRuns | undefined>();
  readonly againstChosen = output<string>();
  readonly textChosen = output<string>();
  readonly runChosen = output<string>();
  readonly sendWanted = output();
  readonly renameWanted = output();
  readonly removalWanted = output();
  readonly pageChosen = output<{ file: number; page: number }>();

  private readonly offered = computed(() =>
    this.runs().map((run) => ({ id: run.id, words: `${secondInWords(run.createdAt)}  ${nameOfRun(run)}` })),
  );
  protected readonly runOptions = computed(() => this.offered().map(({ id, words }) => ({ value: id, words })));
  protected readonly otherOptions = computed(() => [
    { value: '', words: 'no other run' },
    ...this.runOptions().filter(({ value }) => value !== this.run().id),
  ]);
  protected readonly files = computed(() =>
    this.run().files.map((file, at) => ({
      at,
      path: file.path,
      facts: `${countOf(file.pages, 'page')}, ${bytesInWords(file.bytes)}`,
      save: `${path(ROUTES.runFile, { run: this.run().id, index: at })}?save`,
      pages: file.sheets.map((id) => ({ title: this.titleOf(id), state: this.compared()?.states.get(id) })),
    })),
  );
  protected readonly shownExtraFiles = computed(() =>
    this.extraFiles().map(({ at, path: name, bytes, proof }) => ({
      name,
      facts: bytesInWords(bytes) + (proof?.differences.length ? `; ${proof.differences.join(' ')}` : ''),
      save: `${path(ROUTES.runFile, { run: this.run().id, index: at })}?save`,
    })),
  );
  protected readonly zip = computed(() => path(ROUTES.runZip, { run: this.run().id }));

  protected showHit({ file, page, text }: { file: number; page: number; text: string }): void {
    this.pageChosen.emit({ file, page });
    this.textChosen.emit(text);
  }

  private titleOf(id: string): string {
    const sheet = this.run().sheets.find(({ sheetId }) => sheetId === id);
    return sheet ? `${sheet.number} ${sheet.title}` : id;
  }
}
