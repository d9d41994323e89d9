import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import { filteredSheets, paperWords, type OwnPaper, type Sheet, type SheetFilter } from '@folvex/core';
import type { PageSource } from '../engine/engine';
import { Api } from '../state/api';
import { projectFeature } from '../state/project.reducer';
import { PagePicture } from '../ui/page-picture';
import { paperOfSheet } from '../ui/words';

const HEIGHT_PX = 72;

/** The sheets that the package does not hold; a click puts one at its end. */
@Component({
  selector: 'fx-sheet-picker',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PagePicture],
  template: `
    <div class="filters">
      <input
        #text
        class="fx-field"
        type="search"
        placeholder="Number or title"
        aria-label="Number or title"
        (input)="narrow({ text: text.value })"
      />
      <select #group class="fx-field" aria-label="Group" (change)="narrow({ group: chosen(group.value) })">
        <option value="*">any group</option>
        @for (one of groups(); track one.id) {
          <option [value]="one.id">{{ one.name }}</option>
        }
      </select>
      <select #paper class="fx-field" aria-label="Paper" (change)="narrow({ paper: chosen(paper.value) })">
        <option value="*">any paper</option>
        @for (one of papers(); track one) {
          <option [value]="one">{{ one || 'as large as needed' }}</option>
        }
      </select>
      <select #revision class="fx-field" aria-label="Revision" (change)="narrow({ revision: chosen(revision.value) })">
        <option value="*">any revision</option>
        @for (one of revisions(); track one) {
          <option [value]="one">{{ one || 'none' }}</option>
        }
      </select>
      <select #issue class="fx-field" aria-label="Changed since an issue" (change)="since(issue.value)">
        <option value="">changed whenever</option>
        @for (one of issues(); track one.id) {
          <option [value]="one.id">changed since issue {{ one.number }}, {{ one.date }}</option>
        }
      </select>
      <label>
        <input #old type="checkbox" (change)="narrow({ outOfDate: old.checked })" />
        out of date
      </label>
      @if (shown().length > 0) {
        <button type="button" class="fx-link" (click)="allPicked.emit(ids())">Add all {{ shown().length }}</button>
      }
      <button type="button" class="fx-link close" (click)="closed.emit()">Close</button>
    </div>
    <div class="sheets">
      @for (sheet of shown(); track sheet.id) {
        <button type="button" (click)="picked.emit(sheet.id)" [attr.aria-label]="'Add ' + sheet.number">
          <fx-page-picture
            [source]="sources()[sheet.id]!"
            [width]="widthOf(sheet)"
            [style.width.px]="widthOf(sheet)"
            [style.height.px]="height"
            [name]="sheet.number"
          />
          <span>
            <b>{{ sheet.number }}</b> {{ sheet.title }}
          </span>
        </button>
      } @empty {
        <p>
          {{
            sheets().length
              ? 'No sheet outside the package is like that.'
              : 'The package holds every sheet of the project.'
          }}
        </p>
      }
    </div>
  `,
  styles: `
    :host {
      flex: none;
      padding: var(--fx-gap-2) var(--fx-gap-4);
      border-top: 1px solid var(--fx-line-strong);
      background: var(--fx-raised);
    }
    .filters,
    .sheets {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    .filters .fx-field {
      width: 138px;
    }
    .filters label {
      white-space: nowrap;
    }
    .close {
      margin-left: auto;
    }
    .sheets {
      gap: var(--fx-gap-3);
      padding-top: var(--fx-gap-2);
      overflow-x: auto;
    }
    .sheets button {
      display: grid;
      gap: 4px;
      padding: 4px;
      border: 1px solid transparent;
      background: none;
      color: inherit;
      cursor: pointer;
      font: 500 13px var(--fx-label);
      text-align: left;
      white-space: nowrap;
    }
    .sheets button:hover {
      border-color: var(--fx-signal);
    }
    fx-page-picture {
      border: 1px solid var(--fx-line);
    }
  `,
})
export class SheetPicker {
  /** Papers of the project's own. */
  readonly ownPapers = input<OwnPaper[]>([]);
  readonly sheets = input.required<readonly Sheet[]>();
  readonly sources = input.required<Readonly<Record<string, PageSource>>>();
  readonly picked = output<string>();
  /** Ids of all sheets that the filters let through. */
  readonly allPicked = output<string[]>();
  readonly closed = output();
  private readonly filter = signal<SheetFilter>({});
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly drawings = this.store.selectSignal(projectFeature.selectDrawings);
  protected readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly handedOver = rxResource({
    params: () => this.project() || undefined,
    stream: ({ params }) => this.api.issues(params),
  });
  protected readonly issues = computed(() => (this.handedOver.hasValue() ? this.handedOver.value() : []));
  private readonly facts = computed(() => {
    const { entities } = this.drawings();
    return { project: { papers: this.ownPapers() }, latest: (id: string) => entities[id]?.version };
  });
  protected readonly shown = computed(() => filteredSheets(this.sheets(), this.filter(), this.facts()));
  protected readonly ids = computed(() => this.shown().map(({ id }) => id));
  protected readonly papers = computed(() => sorted(this.sheets().map((sheet) => paperWords(sheet, this.facts()))));
  protected readonly revisions = computed(() => sorted(this.sheets().map(({ revision }) => revision?.index ?? '')));
  protected readonly height = HEIGHT_PX;

  /** What a choice says; `*` lets all through. */
  protected chosen(value: string): string | undefined {
    return value === '*' ? undefined : value;
  }

  protected narrow(change: { [Key in keyof SheetFilter]: SheetFilter[Key] | undefined }): void {
    const filter = { ...this.filter(), ...change };
    const kept = Object.entries(filter).filter(([, value]) => value !== undefined);
    this.filter.set(Object.fromEntries(kept) as SheetFilter);
  }

  protected since(id: string): void {
    this.narrow({ changedSince: this.issues().find((issue) => issue.id === id) });
  }

  protected widthOf(sheet: Sheet): number {
    const paper = paperOfSheet(sheet, { papers: this.ownPapers() });
    return Math.round(HEIGHT_PX * (paper ? paper.width / paper.height : Math.SQRT2));
  }
}

function sorted(values: readonly string[]): string[] {
  return [...new Set(values)].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
}
