import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { bytesInWords, counted, momentInWords } from '../ui/words';

/** The runs of the project, and the files of the one shown with their pages. */
@Component({
  selector: 'fx-run-files',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton],
  templateUrl: './run-files.html',
  styleUrl: './run-files.scss',
})
export class RunFiles {
  readonly runs = input.required<readonly RunInfo[]>();
  readonly run = input.required<RunInfo>();
  readonly fileAt = input.required<number>();
  readonly page = input.required<number>();
  readonly runChosen = output<string>();
  readonly pageChosen = output<{ file: number; page: number }>();

  protected readonly offered = computed(() =>
    this.runs().map((run) => ({ id: run.id, words: `${momentInWords(run.createdAt)}  ${run.packageName}` })),
  );
  protected readonly files = computed(() =>
    this.run().files.map((file, at) => ({
      at,
      path: file.path,
      facts: `${counted(file.pages, 'page')}, ${bytesInWords(file.bytes)}`,
      save: `${path(ROUTES.runFile, { run: this.run().id, index: at })}?save`,
      pages: file.sheets.map((id) => this.titleOf(id)),
    })),
  );
  protected readonly zip = computed(() => path(ROUTES.runZip, { run: this.run().id }));

  private titleOf(id: string): string {
    const sheet = this.run().sheets.find(({ sheetId }) => sheetId === id);
    return sheet ? `${sheet.number} ${sheet.title}` : id;
  }
}
