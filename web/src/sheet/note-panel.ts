import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { NOTE_SIZE_MM, NOTE_WEIGHT_MM, type Note } from '@folvex/core';
import { kindInWords } from './notes';

/** What is said of one note of a sheet; all in mm on the paper. */
@Component({
  selector: 'fx-note-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      <b>{{ kind() }}</b>
    </p>
    @if (note().kind === 'text') {
      <label>
        <span class="fx-caption">What it says</span>
        <textarea #words class="fx-field" rows="3" [value]="note().text ?? ''" (change)="said(words.value)"></textarea>
      </label>
    } @else if (note().kind === 'cloud') {
      <label>
        <span class="fx-caption">Revision in its triangle</span>
        <input #index class="fx-field" [value]="note().text ?? ''" (change)="said(index.value)" />
      </label>
    }
    <div class="pair">
      @for (field of fields(); track field.name) {
        <label>
          <span class="fx-caption">{{ field.caption }}</span>
          <input
            #value
            class="fx-field"
            inputmode="decimal"
            [value]="field.value"
            (change)="typed(field.name, value.value)"
          />
        </label>
      }
    </div>
    @if (note().kind === 'text') {
      @if (note().to) {
        <button type="button" class="fx-link" (click)="point(false)">Take its leader away</button>
      } @else {
        <button type="button" class="fx-link" (click)="point(true)">Let it point at something</button>
      }
    }
    <button type="button" class="fx-link" (click)="removed.emit()">Take this note off the sheet</button>
  `,
  styleUrl: './panel.scss',
})
export class NotePanel {
  readonly note = input.required<Note>();
  readonly changed = output<Note>();
  readonly removed = output();

  protected readonly kind = computed(() => kindInWords(this.note().kind));
  protected readonly fields = computed(() => {
    const { kind, at, to, size, width, weight } = this.note();
    const field = (name: string, caption: string, value: number): Field => ({ name, caption, value: rounded(value) });
    const isText = kind === 'text';
    const other = isText ? 'Points at' : kind === 'line' ? 'Other end' : 'Opposite corner';
    return [
      field('x', 'From the left, mm', at[0]),
      field('y', 'From below, mm', at[1]),
      ...(to ? [field('tox', `${other}, from the left`, to[0]), field('toy', `${other}, from below`, to[1])] : []),
      ...(isText
        ? [field('size', 'Height of capitals', size ?? NOTE_SIZE_MM), field('width', 'Wrapped at', width ?? 0)]
        : []),
      ...(isText && !to ? [] : [field('weight', 'Line weight', weight ?? NOTE_WEIGHT_MM)]),
    ];
  });

  protected said(text: string): void {
    if (text !== (this.note().text ?? '')) this.changed.emit({ ...this.note(), text });
  }

  protected typed(name: string, text: string): void {
    const value = Number(text.replace(',', '.'));
    const { at, to = at } = this.note();
    if (text.trim() === '' || !Number.isFinite(value)) return;
    const set: Readonly<Record<string, Partial<Note>>> = {
      x: { at: [value, at[1]] },
      y: { at: [at[0], value] },
      tox: { to: [value, to[1]] },
      toy: { to: [to[0], value] },
    };
    this.changed.emit({ ...this.note(), ...(set[name] ?? { [name]: value }) });
  }

  protected point(on: boolean): void {
    const { at } = this.note();
    this.changed.emit({ ...this.note(), to: on ? [at[0] - 25, at[1] - 20] : undefined });
  }
}

interface Field {
  name: string;
  caption: string;
  value: string;
}

function rounded(value: number): string {
  return String(Math.round(value * 100) / 100);
}
