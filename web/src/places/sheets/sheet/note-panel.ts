import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { letteringOf, noteStylesOf, NOTE_WEIGHT_MM, type Note } from '@folvex/core';
import { Store } from '@ngrx/store';
import { selectAllDrawings } from '../../../state/drawings/drawings.selectors';
import { projectFeature } from '../../../state/project/project.reducer';
import { ChoiceField } from '../../../forms/choice-field';
import { NumberField } from '../../../forms/number-field';
import { TextField } from '../../../forms/text-field';
import { MarkTarget } from './mark-target';
import { kindInWords } from './notes';
import { optionsByName } from '../../../ui/choices';

/** Farther from the paper's corner, mm, nothing is on any sheet. */
const MAX_POSITION_MM = 20_000;

/** Properties of one note of a sheet; all in mm on the paper. */
@Component({
  selector: 'fx-note-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MarkTarget, MatButton, NumberField, TextField],
  template: `
    <p>
      <b>{{ kind() }}</b>
    </p>
    @if (note().kind === 'text') {
      <fx-text caption="Text" [rows]="3" [value]="note().text ?? ''" (entered)="write($event)" />
    } @else if (note().kind === 'table') {
      <fx-text
        caption="Rows as CSV, the first is the heading"
        [rows]="5"
        [value]="note().text ?? ''"
        (entered)="write($event)"
      />
      <input #file type="file" hidden accept=".csv,.tsv,text/csv" (change)="read(file)" />
      <button matButton type="button" class="fx-act" (click)="file.click()">Read a CSV file</button>
    } @else if (note().kind === 'mark') {
      <fx-mark-target [refers]="note().refers" (changed)="changed.emit({ ...note(), refers: $event })" />
    } @else if (note().kind === 'picture') {
      <fx-choice
        caption="Drawing or picture"
        placeholder="Choose one"
        [value]="note().drawing"
        [options]="drawingOptions()"
        (chosen)="changed.emit({ ...note(), drawing: $event })"
      />
    } @else if (note().kind === 'cloud') {
      <fx-text caption="Revision in its triangle" [value]="note().text ?? ''" (entered)="write($event)" />
    }
    @if (note().kind === 'text' || note().kind === 'table') {
      <fx-choice
        caption="Text style"
        [value]="note().style ?? styles()[0]!.id"
        [options]="styleOptions()"
        (chosen)="restyle($event)"
      />
    }
    <div class="pair">
      @for (field of fields(); track field.name) {
        <fx-number
          unit="mm"
          [caption]="field.caption"
          [value]="field.value"
          [min]="field.min"
          [max]="field.max"
          (entered)="set(field.name, $event)"
        />
      }
    </div>
    @if (note().kind === 'text' || note().kind === 'mark') {
      @if (note().to) {
        <button matButton type="button" class="fx-act" (click)="point(false)">Remove the leader</button>
      } @else {
        <button matButton type="button" class="fx-act" (click)="point(true)">Add a leader</button>
      }
    }
    <button matButton type="button" class="fx-act" (click)="removed.emit()">Remove this note</button>
  `,
  styleUrl: './panel.scss',
})
export class NotePanel {
  readonly note = input.required<Note>();
  readonly changed = output<Note>();
  readonly removed = output();

  private readonly store = inject(Store);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  protected readonly drawingOptions = computed(() => optionsByName(this.drawings()));
  protected readonly styles = computed(() => noteStylesOf(this.facts() ?? {}));
  protected readonly styleOptions = computed(() => optionsByName(this.styles()));
  protected readonly kind = computed(() => kindInWords(this.note().kind));
  protected readonly fields = computed(() => {
    const { kind, at, to, width, weight } = this.note();
    const { size } = letteringOf(this.note(), this.styles());
    const place = (name: string, caption: string, value: number): Field => ({
      ...{ name, caption, value: rounded(value), min: -MAX_POSITION_MM, max: MAX_POSITION_MM },
    });
    const length = (name: string, caption: string, value: number, min: number, max: number): Field => ({
      ...{ name, caption, value: rounded(value), min, max },
    });
    const isText = kind === 'text' || kind === 'table';
    const other = isText || kind === 'mark' ? 'Points at' : kind === 'line' ? 'Other end' : 'Opposite corner';
    return [
      place('x', 'From the left', at[0]),
      place('y', 'From below', at[1]),
      ...(to ? [place('tox', `${other}, from the left`, to[0]), place('toy', `${other}, from below`, to[1])] : []),
      ...(isText
        ? [
            length('size', 'Height of capitals', size, 0.5, 100),
            length('width', kind === 'table' ? 'Width' : 'Wrapped at', width ?? 0, 0, MAX_POSITION_MM),
          ]
        : []),
      ...((kind === 'text' && !to) || kind === 'picture'
        ? []
        : [length('weight', 'Line weight', weight ?? NOTE_WEIGHT_MM, 0.05, 5)]),
    ];
  });

  protected write(text: string): void {
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
    if (text !== undefined) this.write(text.replace(/^\uFEFF/, '').trim());
  }

  protected set(name: string, value: number | undefined): void {
    if (value === undefined) return;
    const { at, to = at } = this.note();
    const places: Readonly<Record<string, Partial<Note>>> = {
      x: { at: [value, at[1]] },
      y: { at: [at[0], value] },
      tox: { to: [value, to[1]] },
      toy: { to: [to[0], value] },
    };
    this.changed.emit({ ...this.note(), ...(places[name] ?? { [name]: value }) });
  }

  protected point(on: boolean): void {
    const { at } = this.note();
    this.changed.emit({ ...this.note(), to: on ? [at[0] - 25, at[1] - 20] : undefined });
  }
}

interface Field {
  name: string;
  caption: string;
  value: number;
  min: number;
  max: number;
}

function rounded(value: number): number {
  return Math.round(value * 100) / 100;
}
