import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { Store } from '@ngrx/store';
import { withMembers } from '@folvex/core';
import { selectAllDrawings } from '../state/drawings/drawings.selectors';
import { IssueActions } from '../state/issues/issues.actions';
import { issuesFeature } from '../state/issues/issues.reducer';
import { selectAllPackages } from '../state/packages/packages.selectors';
import { projectFeature } from '../state/project/project.reducer';
import { selectAllSheets } from '../state/sheets/sheets.selectors';
import { ChoiceField, type Choosable } from './choice-field';
import type { Narrowing } from './narrowing';
import { TextField } from './text-field';
import { optionsByName } from '../ui/choices';

/** Filters of sheets: by text, group, drawing, paper, revision, issue, package, and whether they are out of date. */
@Component({
  selector: 'fx-narrowing-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatCheckbox, TextField],
  template: `
    @if (byText()) {
      <fx-text
        bare
        type="search"
        caption="Number or title"
        placeholder="Number or title"
        (typed)="narrowing().narrow({ text: $event })"
      />
    }
    <fx-choice bare caption="Group" [value]="group()" [options]="groups()" (chosen)="byGroup($event)" />
    <fx-choice bare caption="Drawing" [value]="drawing()" [options]="drawings()" (chosen)="byDrawing($event)" />
    <fx-choice bare caption="Paper" [value]="paper()" [options]="papers()" (chosen)="byPaper($event)" />
    <fx-choice bare caption="Revision" [value]="revision()" [options]="revisions()" (chosen)="byRevision($event)" />
    @if (issues().length > 0) {
      <fx-choice
        bare
        caption="Changed since an issue"
        [value]="issue()"
        [options]="issueOptions()"
        (chosen)="since($event)"
      />
    }
    @if (byPackage()) {
      <fx-choice bare caption="In a package" [value]="within()" [options]="packages()" (chosen)="only($event)" />
    }
    <mat-checkbox (change)="narrowing().narrow({ outOfDate: $event.checked })">out of date</mat-checkbox>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    fx-choice,
    fx-text {
      width: 136px;
    }
  `,
})
export class NarrowingFields {
  readonly narrowing = input.required<Narrowing>();
  readonly byText = input(true);
  readonly byPackage = input(false, { transform: booleanAttribute });

  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  private readonly allGroups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly allDrawings = this.store.selectSignal(selectAllDrawings);
  private readonly allPackages = this.store.selectSignal(selectAllPackages);
  protected readonly group = signal<string | null>(null);
  protected readonly drawing = signal<string | null>(null);
  protected readonly paper = signal<string | null>(null);
  protected readonly revision = signal<string | null>(null);
  protected readonly issue = signal('');
  protected readonly within = signal('');
  protected readonly groups = computed((): readonly Choosable<string | null>[] => [
    { value: null, words: 'any group' },
    ...optionsByName(this.allGroups()),
    { value: '', words: 'no group' },
  ]);
  protected readonly drawings = computed((): readonly Choosable<string | null>[] => [
    { value: null, words: 'any drawing' },
    ...optionsByName(this.allDrawings()),
  ]);
  protected readonly papers = computed((): readonly Choosable<string | null>[] => [
    { value: null, words: 'any paper' },
    ...this.narrowing()
      .papers()
      .map((name) => ({ value: name, words: name || 'smallest that fits' })),
  ]);
  protected readonly revisions = computed((): readonly Choosable<string | null>[] => [
    { value: null, words: 'any revision' },
    ...this.narrowing()
      .revisions()
      .map((index) => ({ value: index, words: index || 'no revision' })),
  ]);
  protected readonly packages = computed(() => [
    { value: '', words: 'any package' },
    ...this.allPackages().map(({ id, name }) => ({ value: id, words: `only in ${name}` })),
  ]);
  private readonly register = this.store.selectSignal(issuesFeature.selectIssues);
  protected readonly issues = computed(() => this.register() ?? []);

  protected readonly issueOptions = computed(() => [
    { value: '', words: 'changed at any time' },
    ...this.issues().map(({ id, number, date }) => ({ value: id, words: `changed since issue ${number}, ${date}` })),
  ]);

  constructor() {
    effect(() => {
      if (this.project()) this.store.dispatch(IssueActions.registerAskedFor());
    });
  }

  protected byGroup(group: string | null): void {
    this.group.set(group);
    this.narrowing().narrow({ group: group ?? undefined });
  }

  protected byDrawing(drawing: string | null): void {
    this.drawing.set(drawing);
    this.narrowing().narrow({ drawing: drawing ?? undefined });
  }

  protected byPaper(paper: string | null): void {
    this.paper.set(paper);
    this.narrowing().narrow({ paper: paper ?? undefined });
  }

  protected byRevision(revision: string | null): void {
    this.revision.set(revision);
    this.narrowing().narrow({ revision: revision ?? undefined });
  }

  protected since(id: string): void {
    this.issue.set(id);
    this.narrowing().narrow({ changedSince: this.issues().find((issue) => issue.id === id) });
  }

  protected only(id: string): void {
    this.within.set(id);
    const pack = this.allPackages().find((one) => one.id === id);
    this.narrowing().narrow({ within: pack && withMembers(pack, this.sheets()) });
  }
}
