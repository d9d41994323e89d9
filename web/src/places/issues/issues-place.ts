import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { path, ROUTES, type NewIssue, type RunInfo } from '@folvex/contract';
import { filteredRegister, recipientsIn, superseded, type Issue, type RegisterFilter } from '@folvex/core';
import { runSender } from '../../deliveries/send-run';
import { IssueActions } from '../../state/issues/issues.actions';
import { issuesFeature } from '../../state/issues/issues.reducer';
import { projectFeature, selectPeople } from '../../state/project/project.reducer';
import { selectAllRuns } from '../../state/runs/runs.selectors';
import { EmptyState } from '../../ui/empty-state';
import { countOf } from '../../ui/words';
import { NewIssuePanel } from './new-issue-panel';
import { RelinkPanel } from './relink-panel';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatCheckbox } from '@angular/material/checkbox';
import { ChoiceField } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { MatTableModule } from '@angular/material/table';
import { ProjectLinks } from '../../state/project/project-links';

/** What was handed over to whom and when: sheets against issues; and the mending of sets whose files were renamed. */
@Component({
  selector: 'fx-issues-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    EmptyState,
    MatButton,
    MatButtonToggle,
    MatButtonToggleGroup,
    MatCheckbox,
    MatTableModule,
    NewIssuePanel,
    RelinkPanel,
    RouterLink,
    TextField,
  ],
  templateUrl: './issues-place.html',
  styleUrl: './issues-place.scss',
})
export class IssuesPlace {
  protected readonly to = inject(ProjectLinks).to;
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly runs = this.store.selectSignal(selectAllRuns);
  protected readonly shows = signal<'register' | 'relink'>('register');
  protected readonly making = signal(false);
  private readonly filter = signal<RegisterFilter>({});
  protected readonly chosenId = signal('');
  private readonly state = this.store.selectSignal(issuesFeature.selectIssuesState);
  /** Why the last issue was not created. */
  protected readonly refused = computed(() => this.state().refusal?.sentence ?? '');
  protected readonly problem = computed(() => this.state().problem?.sentence ?? '');
  protected readonly issues = computed(() => this.state().issues ?? undefined);
  protected readonly columns = computed(() => ['number', 'title', ...this.shown().issues.map(({ id }) => id)]);
  protected readonly gone = computed(() => superseded(this.issues() ?? []));
  protected readonly shown = computed(() => filteredRegister(this.issues() ?? [], this.filter()));
  protected readonly purpose = signal('');
  protected readonly recipient = signal('');
  protected readonly purposeOptions = computed(() => [
    { value: '', words: 'any purpose' },
    ...this.purposes().map((one) => ({ value: one, words: one })),
  ]);
  protected readonly recipientOptions = computed(() => [
    { value: '', words: 'any recipient' },
    ...this.recipients().map((one) => ({ value: one, words: one })),
  ]);
  private readonly purposes = computed(() => different((this.issues() ?? []).map(({ purpose }) => purpose)));
  private readonly recipients = computed(() =>
    different((this.issues() ?? []).flatMap(({ recipients }) => recipients)),
  );
  protected readonly chosen = computed(() => this.issues()?.find(({ id }) => id === this.chosenId()));
  /** Runs that can be issued. */
  protected readonly finished = computed(() => this.runs().filter(({ state }) => state === 'done'));
  /** The run of the chosen issue, if it is there to be sent. */
  protected readonly issued = computed(() => this.finished().find(({ id }) => id === this.chosen()?.runId));
  private readonly send = runSender();
  private readonly people = this.store.selectSignal(selectPeople);
  /** Where the register is downloaded as it is shown. */
  protected readonly register = computed(() => {
    const said = Object.entries(this.filter()).map(([key, value]) => [key, String(value)]);
    const query = new URLSearchParams(Object.fromEntries(said) as Record<string, string>).toString();
    return path(ROUTES.register, { project: this.project() }) + (query && `?${query}`);
  });

  /** Changes a filter; an empty choice removes it. */
  protected narrow(change: { [Key in keyof RegisterFilter]: RegisterFilter[Key] | undefined }): void {
    const said = Object.entries({ ...this.filter(), ...change }).filter(([, value]) => value);
    this.filter.set(Object.fromEntries(said) as RegisterFilter);
  }

  /** Offers to email an issue to those of its recipients that have an address. */
  protected email(run: RunInfo, { recipients }: Issue): void {
    const known = recipients.filter((one) => recipientsIn(one, this.people()).addresses.length > 0);
    this.send(run, known.join(', '));
  }

  protected transmittal(issue: string): string {
    return path(ROUTES.transmittal, { project: this.project(), issue });
  }

  protected filesInWords({ files }: Issue): string {
    // Files in other formats show the same pages again.
    const pages = files.reduce((sum, file) => sum + (file.path.endsWith('.pdf') ? file.pages : 0), 0);
    return `${countOf(files.length, 'file')}, ${countOf(pages, 'page')}`;
  }

  protected numberOf(id: string | undefined): number | undefined {
    return this.issues()?.find((issue) => issue.id === id)?.number;
  }

  constructor() {
    effect(() => {
      if (this.project()) this.reload();
    });
    const created = this.store.selectSignal(issuesFeature.selectCreated);
    const before = created();
    effect(() => {
      const id = created();
      if (id === null || id === before) return;
      this.making.set(false);
      this.chosenId.set(id);
    });
  }

  protected reload(): void {
    this.store.dispatch(IssueActions.registerAskedFor());
  }

  protected make(issue: NewIssue): void {
    this.store.dispatch(IssueActions.issueAskedFor({ issue }));
  }
}

function different(values: readonly string[]): string[] {
  return [...new Set(values)].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
}
