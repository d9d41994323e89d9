import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { LENGTH_UNITS } from '@folvex/core';
import { path, ROUTES, type DrawingInfo } from '@folvex/contract';
import { PagePicture } from '../ui/page-picture';
import { bytesInWords, counted, paperInWords, realSize, sizeInWords, unitOf } from '../ui/words';

const PICTURE = { width: 300, height: 150 };

/** One drawing: a miniature of its model and what was found in it. */
@Component({
  selector: 'fx-drawing-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, PagePicture],
  templateUrl: './drawing-card.html',
  styleUrl: './drawing-card.scss',
  host: { '[class.chosen]': 'chosen()' },
})
export class DrawingCard {
  readonly drawing = input.required<DrawingInfo>();
  /** How many sheets show it. */
  readonly uses = input.required<number>();
  readonly chosen = input(false);
  readonly unitStated = output<string>();
  /** Layouts that are sheets already. */
  readonly layoutsTaken = input<readonly string[]>([]);
  readonly sheetWanted = output();
  readonly layoutsWanted = output();
  readonly framesWanted = output();

  protected readonly units = LENGTH_UNITS;
  protected readonly open = signal<'layers' | 'warnings' | null>(null);
  protected readonly unit = computed(() => unitOf(this.drawing()));
  protected readonly size = computed(() => {
    const real = realSize(this.drawing());
    return real && sizeInWords(real);
  });
  protected readonly bytes = computed(() => bytesInWords(this.drawing().bytes));
  protected readonly layouts = computed(() =>
    this.drawing()
      .layouts.map(({ name, paper }) => (paper ? `${name} (${paperInWords(paper)})` : name))
      .join(', '),
  );
  /** Layouts with a paper that could become sheets. */
  protected readonly layoutsLeft = computed(
    () => this.drawing().layouts.filter(({ name, paper }) => paper && !this.layoutsTaken().includes(name)).length,
  );
  protected readonly warnings = computed(() =>
    this.drawing().warnings.reduce((sum, warning) => sum + (warning.count ?? 1), 0),
  );
  protected readonly shape = computed(() => {
    const [xmin, ymin, xmax, ymax] = this.drawing().extents ?? [0, 0, 1, 1];
    const aspect = (xmax - xmin) / (ymax - ymin || 1);
    const width = Math.max(20, Math.min(PICTURE.width, PICTURE.height * aspect));
    return { width, height: Math.min(PICTURE.height, width / aspect) };
  });
  protected readonly source = computed(() => {
    const { id } = this.drawing();
    return { url: path(ROUTES.miniature, { drawing: id }), version: '' };
  });
  protected readonly counted = counted;

  protected toggle(part: 'layers' | 'warnings'): void {
    this.open.update((open) => (open === part ? null : part));
  }
}
