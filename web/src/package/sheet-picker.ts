import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { OwnPaper, Sheet } from '@folvex/core';
import type { PageSource } from '../engine/engine';
import { PagePicture } from '../ui/page-picture';
import { paperOfSheet } from '../ui/words';

const HEIGHT_PX = 72;

/** The sheets that the package does not hold; a click puts one at its end. */
@Component({
  selector: 'fx-sheet-picker',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PagePicture],
  template: `
    @for (sheet of sheets(); track sheet.id) {
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
      <p>The package holds every sheet of the project.</p>
      <button type="button" class="fx-link" (click)="closed.emit()">Close</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex: none;
      align-items: center;
      gap: var(--fx-gap-3);
      padding: var(--fx-gap-2) var(--fx-gap-4);
      border-top: 1px solid var(--fx-line-strong);
      background: var(--fx-raised);
      overflow-x: auto;
    }
    button:not(.fx-link) {
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
    button:not(.fx-link):hover {
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
  readonly closed = output();
  protected readonly height = HEIGHT_PX;

  protected widthOf(sheet: Sheet): number {
    const paper = paperOfSheet(sheet, { papers: this.ownPapers() });
    return Math.round(HEIGHT_PX * (paper ? paper.width / paper.height : Math.SQRT2));
  }
}
