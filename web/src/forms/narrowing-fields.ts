import { booleanAttribute, ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import { withMembers } from '@folvex/core';
import { Api } from '../state/api';
import { projectFeature } from '../state/project.reducer';
import { selectAllPackages, selectAllSheets } from '../state/project.selectors';
import type { Narrowing } from './narrowing';

/** By what sheets are looked for: text, group, paper, revision, issue, package, out of date. */
@Component({
  selector: 'fx-narrowing-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (byText()) {
      <input
        #text
        class="fx-field"
        type="search"
        placeholder="Number or title"
        aria-label="Number or title"
        (input)="narrowing().narrow({ text: text.value })"
      />
    }
    <select #group class="fx-field" aria-label="Group" (change)="narrowing().narrow({ group: chosen(group.value) })">
      <option value="*">any group</option>
      @for (one of groups(); track one.id) {
        <option [value]="one.id">{{ one.name }}</option>
      }
    </select>
    <select #paper class="fx-field" aria-label="Paper" (change)="narrowing().narrow({ paper: chosen(paper.value) })">
      <option value="*">any paper</option>
      @for (one of narrowing().papers(); track one) {
        <option [value]="one">{{ one || 'as large as needed' }}</option>
      }
    </select>
    <select
      #revision
      class="fx-field"
      aria-label="Revision"
      (change)="narrowing().narrow({ revision: chosen(revision.value) })"
    >
      <option value="*">any revision</option>
      @for (one of narrowing().revisions(); track one) {
        <option [value]="one">{{ one || 'none' }}</option>
      }
    </select>
    @if (issues().length > 0) {
      <select #issue class="fx-field" aria-label="Changed since an issue" (change)="since(issue.value)">
        <option value="">changed whenever</option>
        @for (one of issues(); track one.id) {
          <option [value]="one.id">changed since issue {{ one.number }}, {{ one.date }}</option>
        }
      </select>
    }
    @if (byPackage()) {
      <select #within class="fx-field" aria-label="In a package" (change)="only(within.value)">
        <option value="">in whatever package</option>
        @for (one of packages(); track one.id) {
          <option [value]="one.id">only in {{ one.name }}</option>
        }
      </select>
    }
    <label>
      <input #old type="checkbox" (change)="narrowing().narrow({ outOfDate: old.checked })" />
      out of date
    </label>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    .fx-field {
      width: 138px;
    }
    label {
      white-space: nowrap;
    }
  `,
})
export class NarrowingFields {
  readonly narrowing = input.required<Narrowing>();
  readonly byText = input(true);
  readonly byPackage = input(false, { transform: booleanAttribute });

  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  protected readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly packages = this.store.selectSignal(selectAllPackages);
  private readonly handedOver = rxResource({
    params: () => this.project() || undefined,
    stream: ({ params }) => this.api.issues(params),
  });
  protected readonly issues = computed(() => (this.handedOver.hasValue() ? this.handedOver.value() : []));

  /** The value of a choice; `*` lets all through. */
  protected chosen(value: string): string | undefined {
    return value === '*' ? undefined : value;
  }

  protected since(id: string): void {
    this.narrowing().narrow({ changedSince: this.issues().find((issue) => issue.id === id) });
  }

  protected only(id: string): void {
    const pack = this.packages().find((one) => one.id === id);
    this.narrowing().narrow({ within: pack && withMembers(pack, this.sheets()) });
  }
}
