import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';

/** A colour, by the system's own picker: Material has none. */
@Component({
  selector: 'fx-colour',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<input
    #colour
    type="color"
    [attr.aria-label]="caption()"
    [value]="hex()"
    (change)="chosen.emit(parse(colour.value))"
  />`,
  styles: `
    :host {
      display: inline-grid;
    }
    input {
      width: 34px;
      height: 32px;
      padding: 2px;
      border: 1px solid var(--fx-line-strong);
      border-radius: var(--fx-radius);
      background: var(--fx-field);
      cursor: pointer;
    }
  `,
})
export class ColourField {
  readonly caption = input.required<string>();
  /** 0xRRGGBB. */
  readonly value = input.required<number>();
  readonly chosen = output<number>();

  protected readonly hex = computed(() => `#${this.value().toString(16).padStart(6, '0')}`);

  protected parse(hex: string): number {
    return Number.parseInt(hex.slice(1), 16);
  }
}
