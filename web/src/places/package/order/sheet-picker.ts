import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import type { OwnPaper, Sheet } from '@folvex/core';
import type { PageSource } from '../../../engine/engine';
import { selectDrawingEntities } from '../../../state/drawings/drawings.selectors';
import { ChoiceField } from '../../../forms/choice-field';
import { Narrowing } from '../../../forms/narrowing';
import { NarrowingFields } from '../../../forms/narrowing-fields';
import { PagePicture } from '../../../ui/page-picture';
import { paperOfSheet } from '../../../ui/words';

const HEIGHT_PX = 72;

/** The sheets that the package does not hold; a click puts one at its end. */
@Component({
  selector: 'fx-sheet-picker',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, NarrowingFields, PagePicture],
  template: `
    <div class="filters">
      <fx-narrowing-fields [narrowing]="narrowing" />
      @if (shown().length > 0) {
        <button matButton type="button" class="fx-act" (click)="allPicked.emit(ids())">
          Add all {{ shown().length }}
        </button>
      }
      <fx-choice
        bare
        caption="Add a drawing's space"
        placeholder="Add a drawing's space"
        acts
        [options]="spaceOptions()"
        (chosen)="pickSpace($event)"
      />
      <button matButton type="button" class="fx-act close" (click)="closed.emit()">Close</button>
    </div>
    <div class="sheets">
      @for (sheet of shown(); track sheet.id) {
        <button matButton type="button" (click)="picked.emit(sheet.id)" [attr.aria-label]="'Add ' + sheet.number">
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
    .filters {
      flex-wrap: wrap;
    }
    .filters > fx-choice {
      width: 150px;
    }
    .filters,
    .sheets {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    .close {
      margin-left: auto;
      padding: 0 var(--fx-gap-2);
    }
    .sheets {
      gap: var(--fx-gap-3);
      padding-top: var(--fx-gap-2);
      overflow-x: auto;
    }
    .sheets button {
      flex: none;
      height: auto;
      padding: 4px;
      border: 1px solid transparent;
      font: 500 13px var(--fx-label);
      text-align: left;
    }
    .sheets button fx-page-picture {
      margin-bottom: 4px;
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
  readonly spacePicked = output<{ drawing: string; name: string; space: string }>();
  readonly closed = output();
  private readonly drawings = inject(Store).selectSignal(selectDrawingEntities);
  protected readonly narrowing = new Narrowing(
    this.sheets,
    computed(() => {
      const entities = this.drawings();
      return { project: { papers: this.ownPapers() }, latest: (id: string) => entities[id]?.version };
    }),
  );
  protected readonly shown = this.narrowing.shown;
  /** Models and layouts of all drawings. */
  protected readonly spaces = computed(() =>
    Object.values(this.drawings()).flatMap((drawing) =>
      (drawing ? ['model', ...drawing.layouts.map(({ name }) => name)] : []).map((space, at) => ({
        ...{ key: `${drawing!.id} ${at}`, drawing: drawing!.id, name: drawing!.name, space },
      })),
    ),
  );
  protected readonly spaceOptions = computed(() =>
    this.spaces().map(({ key, name, space }) => ({ value: key, words: `${name}: ${space}` })),
  );
  protected readonly ids = computed(() => this.shown().map(({ id }) => id));
  protected readonly height = HEIGHT_PX;

  protected pickSpace(key: string): void {
    const found = this.spaces().find((one) => one.key === key);
    if (found) this.spacePicked.emit({ drawing: found.drawing, name: found.name, space: found.space });
  }

  protected widthOf(sheet: Sheet): number {
    const paper = paperOfSheet(sheet, { papers: this.ownPapers() });
    return Math.round(HEIGHT_PX * (paper ? paper.width / paper.height : Math.SQRT2));
  }
}
