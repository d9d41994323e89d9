import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { bytesInWords, counted, durationInWords, momentInWords } from '../ui/words';

/** The latest run of a package: how far it is, or what came of it. */
@Component({
  selector: 'fx-run-progress',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatProgressBar, RouterLink],
  templateUrl: './run-progress.html',
  styleUrl: './run-progress.scss',
})
export class RunProgress {
  readonly run = input.required<RunInfo>();
  readonly cancelled = output();

  protected readonly open = computed(() => this.run().state === 'waiting' || this.run().state === 'running');
  protected readonly made = computed(() => this.run().sheets.filter((sheet) => sheet.state !== 'waiting').length);
  protected readonly share = computed(() => (100 * this.made()) / Math.max(1, this.run().sheets.length));
  protected readonly failed = computed(() => this.run().sheets.filter((sheet) => sheet.state === 'failed'));
  protected readonly moment = computed(() => momentInWords(this.run().createdAt));
  protected readonly outcome = computed(() => {
    const { files, state, createdAt, finishedAt } = this.run();
    if (state === 'cancelled') return 'cancelled; nothing was written';
    const bytes = bytesInWords(files.reduce((sum, file) => sum + file.bytes, 0));
    const took = durationInWords(Date.parse(finishedAt ?? createdAt) - Date.parse(createdAt));
    return `${counted(files.length, 'file')}, ${bytes}, in ${took}`;
  });
  protected readonly zip = computed(() => path(ROUTES.runZip, { run: this.run().id }));
}
