import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { path, ROUTES, type DrawingInfo } from '@folvex/contract';
import { sourcesShown, type PaperSize } from '@folvex/core';
import { Lookups } from '../../state/lookups/lookups';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { PagePicture } from '../../ui/page-picture';
import { countOf } from '../../ui/words';
import { MatTableModule } from '@angular/material/table';

/** What differs between two versions of a drawing, and which sheets that touches. */
@Component({
  selector: 'fx-changes-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatTableModule, PagePicture],
  templateUrl: './changes-panel.html',
  styleUrl: './changes-panel.scss',
  host: { class: 'fx-side' },
})
export class ChangesPanel {
  readonly drawing = input.required<DrawingInfo>();
  /** SHA-256 of the older and of the newer content. */
  readonly from = input.required<string>();
  readonly to = input.required<string>();
  /** True while the newer one is not taken yet. */
  readonly offered = input(false);
  readonly taken = output();
  readonly closed = output();

  private readonly sheets = inject(Store).selectSignal(selectAllSheets);
  protected readonly width = 372;
  private readonly found = inject(Lookups).of('changes', () => ({
    drawing: this.drawing().id,
    from: this.from(),
    to: this.to(),
  }));
  protected readonly changes = this.found.answer;
  protected readonly trouble = this.found.problem;
  protected readonly picture = computed(() => ({
    url: path(ROUTES.changesPicture, { drawing: this.drawing().id, from: this.from(), to: this.to() }),
    version: '',
  }));
  protected readonly paper = signal<PaperSize>({ width: 4, height: 3 });
  protected readonly height = computed(() => (this.width * this.paper().height) / this.paper().width);
  protected readonly size = computed(() => {
    const changes = this.changes();
    const same = JSON.stringify(changes?.extentsBefore) === JSON.stringify(changes?.extentsAfter);
    return same ? 'the same' : `${sides(changes?.extentsBefore)} before, ${sides(changes?.extentsAfter)} now`;
  });
  /** Numbers of the sheets that follow the drawing, and of those that hold a version of it. */
  protected readonly touched = computed(() => {
    const live: string[] = [];
    const held: string[] = [];
    for (const sheet of this.sheets()) {
      const shown = sourcesShown(sheet).filter(({ drawing }) => drawing === this.drawing().id);
      if (shown.some((source) => source.held === undefined)) live.push(sheet.number);
      if (shown.some((source) => source.held !== undefined)) held.push(sheet.number);
    }
    return { live: live.sort().join(', '), held: held.sort().join(', ') };
  });
  protected readonly counted = countOf;
}

function sides(extents: readonly number[] | null | undefined): string {
  if (!extents) return 'nothing visible';
  const side = (from: number, to: number): string => String(Math.round((to - from) * 100) / 100);
  return `${side(extents[0]!, extents[2]!)} × ${side(extents[1]!, extents[3]!)}`;
}
