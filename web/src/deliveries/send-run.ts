import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import {
  MAT_DIALOG_DATA,
  MatDialog,
  MatDialogActions,
  MatDialogClose,
  MatDialogContent,
  MatDialogRef,
  MatDialogTitle,
} from '@angular/material/dialog';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import { debounceTime } from 'rxjs';
import type { RunInfo } from '@folvex/contract';
import { fileFilter, mailFaults, newDestination, recipientsIn, type Destination, type Mail } from '@folvex/core';
import { Lookups } from '../state/lookups/lookups';
import { projectFeature, selectPeople } from '../state/project/project.reducer';
import { RunActions } from '../state/runs/runs.actions';
import { nameOfRun } from '../state/runs/runs.reducer';
import { selectAllSheets } from '../state/sheets/sheets.selectors';
import { countOf } from '../ui/words';
import { DestinationForm } from './destination-form';
import { PlotPicture } from './plot-picture';

/** A pause in typing, ms. */
const TYPING_MS = 400;

interface SendRequest {
  run: RunInfo;
  /** To whom by email; absent: not by email. */
  to?: string;
}

@Component({
  selector: 'fx-send-run',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    DestinationForm,
    MatButton,
    MatDialogActions,
    MatDialogClose,
    MatDialogContent,
    MatDialogTitle,
    PlotPicture,
  ],
  template: `
    <h2 mat-dialog-title>Send {{ name }}</h2>
    <mat-dialog-content>
      <p class="quiet">{{ files }}, as they were published. Nothing is made again.</p>
      <fx-destination-form [destination]="destination()" [where]="where()" (changed)="destination.set($event!)" />
      @if (draft(); as paper) {
        <fx-plot-picture [draft]="paper" />
      }
    </mat-dialog-content>
    <p class="there" aria-live="polite">{{ there() }}</p>
    <mat-dialog-actions>
      <button matButton type="button" mat-dialog-close>Cancel</button>
      <button
        matButton="filled"
        type="button"
        [disabled]="!isChosen() || isStopped()"
        (click)="open.close(destination())"
      >
        Send
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: var(--fx-gap-2);
    }
    p {
      margin: 0;
    }
    /* In sight however far the form is scrolled. */
    .there {
      padding: var(--fx-gap-2) var(--fx-gap-6) 0;
    }
    .quiet {
      color: var(--fx-quiet);
    }
  `,
})
class SendRun {
  private readonly data = inject<SendRequest>(MAT_DIALOG_DATA);
  private readonly run = this.data.run;
  protected readonly open = inject<MatDialogRef<SendRun, Destination>>(MatDialogRef);
  protected readonly name = nameOfRun(this.run);
  protected readonly files = countOf(this.run.files.length, 'file');
  protected readonly destination = signal<Destination>(
    this.data.to === undefined ? newDestination('server') : ({ ...newDestination('mail'), to: this.data.to } as Mail),
  );
  protected readonly isChosen = computed(() => {
    const destination = this.destination();
    return !('server' in destination) || destination.server !== '';
  });
  /** The destination, once nobody types any more: each look connects to the server. */
  private readonly looked = toSignal(toObservable(this.destination).pipe(debounceTime(TYPING_MS)));
  private readonly found = inject(Lookups).of('runAtDestination', () => {
    const { id: run, deliveries } = this.run;
    const destination = this.looked();
    if (!this.isChosen() || destination !== this.destination()) return undefined;
    return { run, destination, after: deliveries.length };
  });
  protected readonly where = computed(() => this.found.answer()?.where ?? '');
  /** What comes out of the plotter. */
  protected readonly draft = computed(() => {
    const draft = this.destination().kind === 'plotter' ? this.found.answer()?.draft : undefined;
    return draft && draft.pieces.length > 0 ? draft : null;
  });
  private readonly store = inject(Store);
  private readonly people = this.store.selectSignal(selectPeople);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  private readonly mailFaults = (mail: Mail) => mailFaults(mail, this.people());
  /** True where an address is wrong, or names are taken and nothing is to be done about that. */
  protected readonly isStopped = computed(() => {
    const destination = this.destination();
    if (destination.kind === 'mail') return this.mailFaults(destination).length > 0;
    return (
      'onConflict' in destination && destination.onConflict === 'stop' && (this.found.answer()?.paths.length ?? 0) > 0
    );
  });
  /** How many names are taken there, and what will be done about it. */
  protected readonly there = computed(() => {
    if (this.found.problem()) return this.found.problem();
    if (this.found.loading()) return 'Looking at what is there …';
    const destination = this.destination();
    const paths = this.found.answer()?.paths;
    if (destination.kind === 'mail') return this.mailFaults(destination)[0]?.sentence ?? this.shares(destination);
    if (!paths || destination.kind === 'plotter') return '';
    if (paths.length === 0) return 'No file of the same name exists there.';
    const one = paths.length === 1 ? `${paths[0]!} exists there` : `${paths.length} files of the same name exist there`;
    if (this.isStopped()) return `${one}. Choose what to do about them.`;
    const name = this.found.answer()?.numbered?.[paths[0]!];
    const next = name === undefined ? '' : ` ${paths[0]!} would become ${name}.`;
    return `${one}. Files with the same content stay as they are.${next}`;
  });

  /** Which recipients of an email do not get all files, and how many they get. */
  private shares({ to }: Mail): string {
    const { files } = this.run;
    const project = { project: { people: this.people() }, groups: this.groups(), sheets: this.sheets() };
    const lines = recipientsIn(to, this.people()).addresses.flatMap((address) => {
      const theirs = files.filter(fileFilter(project, address)).length;
      if (theirs === files.length) return [];
      return theirs === 0 ? `${address} gets none of the files.` : `${address} gets ${theirs} of ${this.files}.`;
    });
    return lines.join(' ');
  }
}

/**
 * Asks where a run is to be sent, and sends it there: `to` somebody by email, unless another destination is chosen. To be
 * called where things are injected; returns what asks.
 */
export function runSender(): (run: RunInfo, to?: string) => void {
  const [dialog, store] = [inject(MatDialog), inject(Store)];
  return (run, to) => {
    const open = dialog.open<SendRun, SendRequest, Destination>(SendRun, {
      data: { run, ...(to !== undefined && { to }) },
      width: '520px',
    });
    open.afterClosed().subscribe((destination) => {
      if (destination) store.dispatch(RunActions.sendAskedFor({ runId: run.id, destination }));
    });
  };
}
