import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import type { PaperSize } from '@folvex/core';
import { CompareActions, type CompareMode } from '../../state/compare/compare.actions';
import { compareFeature } from '../../state/compare/compare.reducer';
import type { ComparedPage } from './page-comparer';
import type { PageState } from '../../state/runs/run-pairs';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';

const MODES: readonly { value: CompareMode; words: string }[] = [
  { value: 'together', words: 'Together' },
  { value: 'line', words: 'At a line' },
  { value: 'turns', words: 'In turns' },
];

/** What became of a page since an earlier run: how that is shown, and where it differs. */
@Component({
  selector: 'fx-compare-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatButtonToggle, MatButtonToggleGroup, MatSlider, MatSliderThumb],
  template: `
    <h2>Since {{ since() }}</h2>
    @switch (state()) {
      @case ('same') {
        <p>No change on this page.</p>
      }
      @case ('new') {
        <p>This page is new.</p>
      }
      @case ('changed') {
        @if (compared(); as found) {
          <mat-button-toggle-group
            [value]="mode()"
            (change)="chooseMode($event.value)"
            aria-label="How both are shown"
            hideSingleSelectionIndicator
          >
            @for (option of modes; track option.value) {
              <mat-button-toggle [value]="option.value">{{ option.words }}</mat-button-toggle>
            }
          </mat-button-toggle-group>
          @switch (mode()) {
            @case ('together') {
              <p class="legend"><span class="came"></span> added <span class="went"></span> removed</p>
            }
            @case ('line') {
              <label>
                <span class="fx-caption">Left of the line: the earlier run</span>
                <mat-slider min="0" max="100">
                  <input
                    matSliderThumb
                    aria-label="Position of the line"
                    [value]="lineAt()"
                    (valueChange)="moveLine($event)"
                  />
                </mat-slider>
              </label>
            }
            @case ('turns') {
              <button matButton type="button" class="fx-act" (click)="turned.emit()">Switch now</button>
            }
          }
          <ol>
            @for (area of areas(); track $index) {
              <li>
                <button
                  matButton
                  type="button"
                  class="fx-row"
                  [class.here]="$index === difference()"
                  (click)="choose($index)"
                >
                  <span
                    >{{ area.words }} <small>{{ area.size }}</small></span
                  >
                </button>
              </li>
            } @empty {
              <li class="none">Nothing looks different: what changed is not visible at this size, or is a link.</li>
            }
          </ol>
        } @else if (trouble(); as words) {
          <p role="alert">{{ words }}</p>
        } @else if (other()) {
          <p>The paper has a different size, so the pages cannot be laid over each other.</p>
        } @else {
          <p role="status">Comparing …</p>
        }
      }
      @default {
        <p>The earlier page is not known: its sheet is tiled on several pages.</p>
      }
    }
    @if (gone().length > 0) {
      <h2>Not there any more</h2>
      <ul>
        @for (page of gone(); track page) {
          <li>{{ page }}</li>
        }
      </ul>
    }
    <button matButton type="button" class="fx-act" (click)="closed.emit()">Stop comparing</button>
  `,
  styleUrl: './compare-panel.scss',
})
export class ComparePanel {
  readonly since = input.required<string>();
  readonly state = input.required<PageState | undefined>();
  /** Why it cannot be compared; empty where it can. */
  readonly trouble = input.required<string>();
  readonly compared = input.required<ComparedPage | null | undefined>();
  readonly paper = input.required<PaperSize | undefined>();
  readonly gone = input.required<readonly string[]>();
  readonly turned = output();
  readonly closed = output();
  private readonly store = inject(Store);
  protected readonly mode = this.store.selectSignal(compareFeature.selectMode);
  protected readonly lineAt = this.store.selectSignal(compareFeature.selectLineAt);
  protected readonly difference = this.store.selectSignal(compareFeature.selectDifference);
  protected readonly modes = MODES;
  /** True where the papers differ. */
  protected readonly other = computed(() => this.compared() === null);
  protected readonly areas = computed(() => {
    const { width, height } = this.paper() ?? { width: 0, height: 0 };
    const mm = (share: number, of: number): string => (share * of).toFixed(0);
    return (this.compared()?.areas ?? []).map((area) => ({
      words: area.removed === 0 ? 'added' : area.added === 0 ? 'removed' : 'changed',
      size: `${mm(area.width, width)} × ${mm(area.height, height)} mm, at ${mm(area.left, width)}, ${mm(1 - area.top - area.height, height)} mm`,
    }));
  });

  protected chooseMode(mode: CompareMode): void {
    this.store.dispatch(CompareActions.modeChosen({ mode }));
  }

  protected moveLine(lineAt: number): void {
    this.store.dispatch(CompareActions.lineMoved({ lineAt }));
  }

  protected choose(difference: number): void {
    this.store.dispatch(CompareActions.differenceChosen({ difference }));
  }
}
