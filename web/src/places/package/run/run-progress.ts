import { ChangeDetectionStrategy, Component, computed, input, output, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { bytesInWords, type Proof } from '@folvex/core';
import { DeliveryList } from '../../../deliveries/delivery-list';
import { askToNotify, mayAskToNotify } from '../../../ui/notify';
import { countOf, durationInWords, momentInWords } from '../../../ui/words';
import { RunTimeline } from './run-timeline';
import { selectIsLead } from '../../../state/session/session.reducer';
import { ProjectLinks } from '../../../state/project/project-links';

/** The latest run of a package: how far it is, or what came of it. */
@Component({
  selector: 'fx-run-progress',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DeliveryList, MatButton, MatIcon, MatProgressBar, RouterLink, RunTimeline],
  templateUrl: './run-progress.html',
  styleUrl: './run-progress.scss',
})
export class RunProgress {
  protected readonly to = inject(ProjectLinks).to;
  protected readonly isLead = inject(Store).selectSignal(selectIsLead);
  readonly run = input.required<RunInfo>();
  readonly cancelled = output();
  /** The run is to be made again, as it was. */
  readonly again = output();
  /** Its files are to be sent somewhere. */
  readonly send = output();
  protected readonly mayAsk = mayAskToNotify;
  protected readonly ask = askToNotify;
  protected readonly formats = ['xlsx', 'csv', 'json'] as const;

  protected readonly open = computed(() => this.run().state === 'waiting' || this.run().state === 'running');
  protected readonly made = computed(() => this.run().sheets.filter((sheet) => sheet.state !== 'waiting').length);
  protected readonly share = computed(() => (100 * this.made()) / Math.max(1, this.run().sheets.length));
  protected readonly failed = computed(() => this.run().sheets.filter((sheet) => sheet.state === 'failed'));
  protected readonly moment = computed(() => {
    const { createdAt, startedBy } = this.run();
    return startedBy === null ? momentInWords(createdAt) : `${momentInWords(createdAt)}, by ${startedBy}`;
  });
  protected readonly outcome = computed(() => {
    const { files, state, createdAt, finishedAt } = this.run();
    if (state === 'cancelled') return 'cancelled; nothing was written';
    const bytes = bytesInWords(files.reduce((sum, file) => sum + file.bytes, 0));
    const took = durationInWords(Date.parse(finishedAt ?? createdAt) - Date.parse(createdAt));
    return `${countOf(files.length, 'file')}, ${bytes}, in ${took}`;
  });
  /** About how long the sheets that wait will take, by those that are made. */
  protected readonly left = computed(() => {
    const [made, all] = [this.made(), this.run().sheets.length];
    if (made < 2 || made === all) return '';
    const took = Date.now() - Date.parse(this.run().createdAt);
    return `, about ${durationInWords((took / made) * (all - made))} left`;
  });
  protected readonly differs = computed(() =>
    this.run().files.flatMap(({ path, proof }) => (proof?.differences ?? []).map((what) => `${path}: ${what}`)),
  );
  /** What reading the files again found. */
  protected readonly proof = computed(() => {
    const proofs = this.run().files.flatMap(({ proof }) => proof ?? []);
    const all = this.run().files.length;
    if (proofs.length === 0) return '';
    if (proofs.length < all && this.differs().length === 0)
      return `Reading the files again: ${proofs.length} of ${all} …`;
    const read = this.run().files.flatMap(({ format, proof }) =>
      format === null && proof && !proof.unread ? [proof] : [],
    );
    const sum = (of: (proof: Proof) => number): number => read.reduce((all, proof) => all + of(proof), 0);
    if (read.length === 0)
      return `Not read again: ${proofs.find(({ unread }) => unread)?.unread ?? 'nothing of it is a PDF.'}`;
    const found = `${countOf(
      sum((p) => p.pages),
      'page',
    )}, ${sum((p) => p.characters)} characters, ${countOf(
      sum((p) => p.links),
      'link',
    )}, ${countOf(
      sum((p) => p.measured),
      'view',
    )} to scale`;
    return this.differs().length > 0
      ? 'Read again, some of it is not as it should be:'
      : `Read again and found as it should be: ${found}${read.every(({ sound }) => sound) ? '; qpdf finds no fault' : ''}.`;
  });
  protected readonly zip = computed(() => path(ROUTES.runZip, { run: this.run().id }));

  protected report(format: string): string {
    return path(ROUTES.runReport, { run: this.run().id, format });
  }
}
