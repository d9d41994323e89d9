import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { letteringOf, noteStylesOf, NOTE_WEIGHT_MM, type Note } from '@folvex/core';
import { Store } from '@ngrx/store';
import { projectFeature } from '../../../state/project.reducer';
import { selectAllDrawings } from '../../../state/project.selectors';
import { MarkTarget } from './mark-target';
import { kindInWords } from './notes';

/** Properties of one note of a sheet; all in mm on the paper. */
@Component({
  selector: 'fx-note-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MarkTarget],
  template: `
    <p>
      <b>{{ kind() }}</b>
    </p>
    @if (note().kind === 'text') {
      <label>
        <span class="fx-caption">What it says</span>
        <textarea #words class="fx-field" rows="3" [value]="note().text ?? ''" (change)="said(words.value)"></textarea>
      </label>
    } @else if (note().kind === 'table') {
      <label>
        <span class="fx-caption">Rows as CSV, the first is the heading</span>
        <textarea #rows class="fx-field" rows="5" [value]="note().text ?? ''" (change)="said(rows.value)"></textarea>
      </label>
      <label>
        <span class="fx-caption">or from a CSV file</span>
        <input #file type="file" accept=".csv,.tsv,text/csv" (change)="read(file)" />
      </label>
    } @else if (note().kind === 'mark') {
      <fx-mark-target [refers]="note().refers" (changed)="changed.emit({ ...note(), refers: $event })" />
    } @else if (note().kind === 'picture') {
      <label>
        <span class="fx-caption">Drawing or picture</span>
        <select #drawing class="fx-field" (change)="changed.emit({ ...note(), drawing: drawing.value || undefined })">
          <option value="">choose one …</option>
          @for (option of drawings(); track option.id) {
            <option [value]="option.id" [selected]="option.id === note().drawing">{{ option.name }}</option>
          }
        </select>
      </label>
    } @else if (note().kind === 'cloud') {
      <label>
        <span class="fx-caption">Revision in its triangle</span>
        <input #index class="fx-field" [value]="note().text ?? ''" (change)="said(index.value)" />
      </label>
    }
    @if (note().kind === 'text' || note().kind === 'table') {
      <label>
        <span class="fx-caption">Text style</span>
        <select #style class="fx-field" (change)="restyle(styles()[style.selectedIndex]!.id)">
          @for (option of styles(); track option.id) {
            <option [selected]="option.id === (note().style ?? styles()[0]!.id)">{{ option.name }}</option>
          }
        </select>
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
    @if (note().kind === 'text' || note().kind === 'mark') {
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

  private readonly store = inject(Store);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly drawings = this.store.selectSignal(selectAllDrawings);
  protected readonly styles = computed(() => noteStylesOf(this.facts() ?? {}));
  protected readonly kind = computed(() => kindInWords(this.note().kind));
  protected readonly fields = computed(() => {
    const { kind, at, to, width, weight } = this.note();
    const { size } = letteringOf(this.note(), this.styles());
    const field = (name: string, caption: string, value: number): Field => ({ name, caption, value: rounded(value) });
    const isText = kind === 'text' || kind === 'table';
    const other = isText || kind === 'mark' ? 'Points at' : kind === 'line' ? 'Other end' : 'Opposite corner';
    return [
      field('x', 'From the left, mm', at[0]),
      field('y', 'From below, mm', at[1]),
      ...(to ? [field('tox', `${other}, from the left`, to[0]), field('toy', `${other}, from below`, to[1])] : []),
      ...(isText
        ? [
            field('size', 'Height of capitals', size),
            field('width', kind === 'table' ? 'Width' : 'Wrapped at', width ?? 0),
          ]
        : []),
      ...((kind === 'text' && !to) || kind === 'picture'
        ? []
        : [field('weight', 'Line weight', weight ?? NOTE_WEIGHT_MM)]),
    ];
  });

  protected said(text: string): void {
    if (text !== (this.note().text ?? '')) this.changed.emit({ ...this.note(), text });
  }

  /** A style brings its own height. */
  protected restyle(style: string): void {
    const note = { ...this.note(), style };
    delete note.size;
    this.changed.emit(note);
  }

  protected async read(field: HTMLInputElement): Promise<void> {
    const text = await field.files?.[0]?.text();
    if (text !== undefined) this.said(text.replace(/^\uFEFF/, '').trim());
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
