import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { describePaper, type PaperSize, type Sheet } from '@folvex/core';
import type { PageSource } from '../../engine/engine';
import { PagePicture } from '../../ui/page-picture';
import { LEAST_TILE_PX } from './wall-layout';

/** A sheet on the wall: its picture at true proportion, number and title, paper, scale and revision. */
@Component({
  selector: 'fx-sheet-tile',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon, PagePicture],
  template: `
    <div class="paper" [style.width.px]="width()" [style.height.px]="height()">
      <fx-page-picture
        [source]="source()"
        [width]="width()"
        [style.height.px]="height()"
        [name]="sheet().number + ' ' + sheet().title"
        (measured)="measured.emit($event)"
      />
      @if (chosen()) {
        <mat-icon svgIcon="check" class="tick" aria-hidden="true" />
      }
    </div>
    <p class="name">
      <b>{{ sheet().number }}</b> {{ sheet().title }}
    </p>
    <p class="facts">
      @if (outOfDate()) {
        <span class="stale"><mat-icon svgIcon="history" aria-hidden="true" />out of date</span> ·
      }
      @if (deviations(); as words) {
        <span class="stale"><mat-icon svgIcon="call_split" aria-hidden="true" />other {{ words }}</span> ·
      }
      {{ facts() }}
    </p>
  `,
  styles: `
    :host {
      display: block;
      cursor: default;
      outline: none;
    }
    .paper {
      position: relative;
      box-shadow: var(--fx-sheet-shadow);
    }
    :host(:focus-visible) .paper {
      outline: 2px solid var(--fx-ink);
      outline-offset: 4px;
    }
    :host(.chosen) .paper {
      box-shadow:
        0 0 0 2px var(--fx-signal),
        var(--fx-sheet-shadow);
    }
    .tick {
      position: absolute;
      top: -9px;
      right: -9px;
      --fx-icon: 20px;
      background: var(--fx-signal);
      color: var(--fx-on-signal);
    }
    .name,
    .facts {
      max-width: 100%;
      overflow: hidden;
      font: 500 14px/1.25 var(--fx-label);
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .name {
      margin-top: 6px;
    }
    b {
      font-weight: 600;
    }
    .facts {
      color: var(--fx-quiet);
      font-size: 12.5px;
    }
    .stale {
      --fx-icon: 14px;
      color: var(--fx-signal);
    }
    .stale mat-icon {
      margin-right: 2px;
      vertical-align: -2px;
    }
  `,
  host: { '[class.chosen]': 'chosen()', '[style.width.px]': 'Math.max(width(), least)' },
})
export class SheetTile {
  readonly sheet = input.required<Sheet>();
  readonly source = input.required<PageSource>();
  readonly paper = input.required<PaperSize>();
  readonly pixelsPerMm = input.required<number>();
  readonly chosen = input(false);
  /** True where it shows something held behind its drawing. */
  readonly outOfDate = input(false);
  /** The scales of its views, in words. */
  readonly scale = input.required<string>();
  /** In what it deviates from its group, in words. */
  readonly deviations = input('');
  readonly measured = output<PaperSize>();

  protected readonly Math = Math;
  protected readonly least = LEAST_TILE_PX;
  protected readonly width = computed(() => Math.round(this.paper().width * this.pixelsPerMm()));
  protected readonly height = computed(() => Math.round(this.paper().height * this.pixelsPerMm()));
  protected readonly facts = computed(() => {
    const { revision } = this.sheet();
    return [describePaper(this.paper()), this.scale(), revision?.index].filter(Boolean).join(' · ');
  });
}
