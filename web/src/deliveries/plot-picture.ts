import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { PlotDraft } from '@folvex/core';
import { countOf } from '../ui/words';
import { takenInWords } from './delivery-words';

/** Pieces that are drawn; of more only the number is said. */
const MAX_DRAWN = 12;
/** Short pieces are drawn as if the longest were so long, so that none fills the panel, mm. */
const MIN_SCALE_MM = 1500;
/** Height of the numbers of sheets, and the smallest page that has one, as shares of what is drawn. */
const [TEXT_SHARE, MIN_PAGE_SHARE] = [0.032, 0.05];

/** What comes out of a plotter, drawn to scale before it is sent: each piece as the roll comes out, to the right. */
@Component({
  selector: 'fx-plot-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>{{ words() }}</p>
    <div class="pieces">
      @for (piece of drawn(); track $index) {
        <figure [style.width.%]="piece.share">
          <svg role="img" [attr.viewBox]="'0 0 ' + piece.length + ' ' + piece.width" [attr.aria-label]="piece.label">
            <rect class="paper" [attr.width]="piece.length" [attr.height]="piece.width" />
            @for (page of piece.pages; track $index) {
              <rect
                class="page"
                [attr.x]="page.y"
                [attr.y]="page.x"
                [attr.width]="page.along"
                [attr.height]="page.across"
              />
              @if (page.isLabelled) {
                <text
                  [attr.x]="page.y + page.along / 2"
                  [attr.y]="page.x + page.across / 2"
                  [attr.font-size]="scale() * textShare"
                  text-anchor="middle"
                  dominant-baseline="central"
                >
                  {{ page.number }}
                </text>
              }
            }
          </svg>
          <figcaption>{{ piece.label }}</figcaption>
        </figure>
      }
    </div>
    @if (more() > 0) {
      <p>{{ more() }} more are not drawn.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
    .pieces {
      display: flex;
      flex-wrap: wrap;
      align-items: start;
      gap: var(--fx-gap-2) 0;
    }
    p {
      margin: 0;
    }
    figure {
      margin: 0;
      padding-right: var(--fx-gap-2);
      box-sizing: border-box;
    }
    p,
    figcaption {
      color: var(--fx-quiet);
    }
    figcaption {
      font: 500 12px var(--fx-label);
    }
    svg {
      display: block;
      width: 100%;
    }
    .paper {
      fill: var(--fx-table);
    }
    .page {
      fill: var(--fx-paper);
      stroke: var(--fx-line-strong);
      vector-effect: non-scaling-stroke;
    }
    text {
      fill: var(--fx-on-paper-quiet);
      font-family: var(--fx-label);
      font-weight: 600;
    }
  `,
})
export class PlotPicture {
  readonly draft = input.required<PlotDraft>();
  protected readonly textShare = TEXT_SHARE;
  protected readonly words = computed(() => {
    const { pieces, ...taken } = this.draft();
    return `${countOf(pieces.length, 'piece')} of paper: ${takenInWords(taken)}.`;
  });
  /** How many millimetres of a roll the panel is wide. */
  protected readonly scale = computed(() => Math.max(MIN_SCALE_MM, ...this.draft().pieces.map(({ length }) => length)));
  protected readonly drawn = computed(() =>
    this.draft()
      .pieces.slice(0, MAX_DRAWN)
      .map(({ medium, width, length, pages }) => ({
        ...{ width, length, share: (100 * length) / this.scale() },
        label: `${medium}: ${pages.map(({ number }) => number).join(', ')}`,
        pages: pages.map((page) => ({
          ...page,
          isLabelled: Math.min(page.across, page.along) > MIN_PAGE_SHARE * this.scale(),
        })),
      })),
  );
  protected readonly more = computed(() => this.draft().pieces.length - this.drawn().length);
}
