import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  bytesInWords,
  CORNER_OPTIONS,
  estimateBytes,
  PAGE_OPTIONS,
  WITHIN_OPTIONS,
  type PageOptions,
  type PictureFacts,
} from '@folvex/core';
import { ChoiceField } from '../../../forms/choice-field';
import { NumberField } from '../../../forms/number-field';
import { Fold } from '../../../ui/fold';

type NumberKey = 'percent' | 'offsetX' | 'offsetY' | 'pictureDpi';
const NUMBERS = ['percent', 'offsetX', 'offsetY', 'pictureDpi'].map((wanted) =>
  PAGE_OPTIONS.find(({ key }) => key === wanted),
) as Extract<(typeof PAGE_OPTIONS)[number], { key: NumberKey }>[];

/** How a page is put on paper: its size, the corner that it lies in, how far it is moved, and how fine its pictures are. */
@Component({
  selector: 'fx-paper-placement',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, Fold, NumberField],
  template: `
    <fx-fold [caption]="said()" [(open)]="open">
      <!-- Fields that are folded away would still take their width. -->
      @if (open()) {
        <div class="fields">
          @for (setting of numbers; track setting.key) {
            <fx-number
              [caption]="setting.caption"
              [value]="options()[setting.key]"
              [min]="setting.min"
              [max]="setting.max"
              [absent]="setting.absent"
              (entered)="enter(setting.key, $event)"
            />
          }
          <div>
            <fx-choice
              caption="Fit within"
              [value]="options().within"
              [options]="withins"
              (chosen)="changed.emit({ within: $event })"
            />
          </div>
          <div>
            <fx-choice
              caption="Position"
              [value]="options().corner"
              [options]="corners"
              (chosen)="changed.emit({ corner: $event })"
            />
          </div>
        </div>
        <p class="quiet">{{ pictureSize() }}</p>
      }
    </fx-fold>
  `,
  styles: `
    .fields {
      display: grid;
      grid-template-columns: repeat(4, 96px) repeat(2, 150px);
      align-items: end;
      gap: var(--fx-gap-2);
    }
  `,
})
export class PaperPlacementPanel {
  readonly options = input.required<PageOptions>();
  /** Pictures on the page, where that is known. */
  readonly pictures = input<readonly PictureFacts[]>();
  /** The resolution that the recipe of the package asks for; absent: as they are. */
  readonly recipeDpi = input<number>();
  readonly changed = output<Partial<Record<keyof PageOptions, unknown>>>();

  protected readonly open = signal(false);
  protected readonly numbers = NUMBERS;
  protected readonly corners = CORNER_OPTIONS;
  protected readonly withins = WITHIN_OPTIONS;
  protected readonly said = computed(() => {
    const { percent, within, corner, offsetX, offsetY, pictureDpi } = this.options();
    const offset = offsetX || offsetY ? `offset ${offsetX ?? 0}, ${offsetY ?? 0} mm` : '';
    const position = corner && CORNER_OPTIONS.find(({ value }) => value === corner)!.words;
    const said = [
      percent !== undefined && `${percent} %`,
      within && 'within the printable area',
      position,
      offset,
      pictureDpi && `pictures ${pictureDpi} dpi`,
    ].filter(Boolean);
    return said.length > 0 ? `Placement: ${said.join(', ')}` : 'Placement';
  });

  /** What the resolution of its pictures costs. */
  protected readonly pictureSize = computed(() => {
    const pictures = this.pictures() ?? [];
    if (pictures.length === 0) return '';
    const size = (dpi: number | undefined): string =>
      `about ${bytesInWords(Math.round(estimateBytes(pictures, dpi ?? Infinity)))}`;
    const recipe = this.recipeDpi();
    const recipeWords = recipe === undefined ? 'at their original resolution' : `at ${recipe} dpi`;
    const own = this.options().pictureDpi;
    const usual = `${size(recipe)} ${recipeWords}, as the recipe has them`;
    return own ? `Pictures take ${size(own)} at ${own} dpi; ${usual}.` : `Pictures take ${usual}.`;
  });

  protected enter(key: NumberKey, value: number | undefined): void {
    this.changed.emit({ [key]: key === 'percent' ? value : value || undefined });
  }
}
