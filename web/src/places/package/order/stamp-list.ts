import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { PrintedStamp } from '@folvex/core';

const hexOf = (colour: number): string => `#${colour.toString(16).padStart(6, '0')}`;

/** Stamps, one below the other, to be edited: those of a package, or of one of its pages. */
@Component({
  selector: 'fx-stamp-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `
    @for (stamp of stamps(); track $index; let at = $index) {
      <div class="stamp">
        <input
          #text
          class="fx-field"
          aria-label="Text of the stamp"
          [value]="stamp.text"
          (change)="stampSays(at, { text: text.value })"
        />
        <select
          #place
          class="fx-field"
          aria-label="Place of the stamp"
          (change)="stampSays(at, { at: placeOf(place.value) })"
        >
          @for (option of places; track option[0]) {
            <option [value]="option[0]" [selected]="option[0] === stamp.at">{{ option[1] }}</option>
          }
        </select>
        <input
          #size
          class="fx-field measure"
          type="number"
          min="1"
          max="100"
          aria-label="Height of the stamp, mm"
          [value]="stamp.size"
          (change)="stampSays(at, { size: clamped(size.valueAsNumber, stamp.size) })"
        />
        <input
          #colour
          type="color"
          aria-label="Colour of the stamp"
          [value]="hex(stamp.colour)"
          (change)="stampSays(at, { colour: number(colour.value) })"
        />
        <button matButton type="button" class="fx-act" (click)="removeStamp(at)">Remove</button>
        <label class="under">
          <input #under type="checkbox" [checked]="stamp.under" (change)="layStamp(at, under.checked)" />
          under the drawing
        </label>
      </div>
    }
    @if (stamps().length > 0) {
      <p class="quiet">Fields as in names, and [run.id]: what says its run is made anew each time.</p>
    }
    <button matButton type="button" class="fx-act" (click)="addStamp()">Add a stamp</button>
  `,
  styles: `
    .stamp {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 56px 34px auto;
      align-items: center;
      gap: var(--fx-gap-2);
      margin: var(--fx-gap-2) 0;

      > :first-child,
      > .under {
        grid-column: 1 / -1;
        display: flex;
        align-items: center;
        gap: 4px;
      }
    }
    :host(.wide) .stamp {
      grid-template-columns: 320px 150px 56px 34px auto auto;
      justify-content: start;

      > :first-child,
      > .under {
        grid-column: auto;
      }
    }
    [type='color'] {
      width: 34px;
      height: var(--fx-row);
      padding: 2px;
      border: 1px solid var(--fx-line-strong);
      background: none;
    }
    .quiet {
      color: var(--fx-quiet);
    }
  `,
})
export class StampList {
  readonly stamps = input.required<readonly PrintedStamp[]>();
  readonly changed = output<PrintedStamp[]>();

  protected readonly hex = hexOf;
  protected readonly places: readonly (readonly [PrintedStamp['at'], string])[] = [
    ['top', 'upper edge'],
    ['bottom', 'lower edge'],
    ['middle', 'across, as a tint'],
  ];

  protected placeOf(value: string): PrintedStamp['at'] {
    return value as PrintedStamp['at'];
  }

  protected number(hex: string): number {
    return Number.parseInt(hex.slice(1), 16);
  }

  protected clamped(size: number, before: number): number {
    return Number.isFinite(size) ? Math.min(100, Math.max(1, size)) : before;
  }

  protected stampSays(at: number, said: Partial<PrintedStamp>): void {
    if (said.text?.trim() === '') return this.removeStamp(at);
    this.changed.emit(this.stamps().map((stamp, i) => (i === at ? { ...stamp, ...said } : stamp)));
  }

  protected layStamp(at: number, below: boolean): void {
    const stamps = this.stamps().map((stamp, i): PrintedStamp => {
      if (i !== at) return stamp;
      const { text, at: place, size, colour } = stamp;
      return { text, at: place, size, colour, ...(below && { under: true as const }) };
    });
    this.changed.emit(stamps);
  }

  protected addStamp(): void {
    const stamp: PrintedStamp = { text: 'PRELIMINARY [run.date]', at: 'top', size: 3.5, colour: 0xb93a14 };
    this.changed.emit([...this.stamps(), stamp]);
  }

  protected removeStamp(at: number): void {
    this.changed.emit(this.stamps().filter((_, i) => i !== at));
  }
}
