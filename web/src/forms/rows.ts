import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { MatButton, MatIconButton } from '@angular/material/button';

/** A column of a list of settings. */
export interface Column {
  key: string;
  caption: string;
  kind: 'text' | 'number' | 'choice' | 'check';
  /** Of a choice: values and words. */
  choices?: readonly (readonly [value: string, words: string])[];
  /** Of a number, both in the unit of the caption. */
  least?: number;
  most?: number;
  /** What a text must be like, and how to say so. */
  pattern?: RegExp;
  patternWords?: string;
  /** True where a text may be blank. */
  optional?: boolean;
  /** True where several rows may say the same in the first column. */
  repeats?: boolean;
  /** Share of the width. */
  share?: number;
}

export type Value = string | number | boolean;
export type Row = Readonly<Record<string, Value>>;

/** A list of settings, a row each, every value changed in its place. Invalid values are reported and not passed on. */
@Component({
  selector: 'fx-rows',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton],
  template: `
    @if (rows().length > 0) {
      <table [attr.aria-label]="name()">
        <thead>
          <tr>
            @for (column of columns(); track column.key) {
              <th class="fx-caption" scope="col" [style.width.%]="(100 * (column.share ?? 1)) / shares()">
                {{ column.caption }}
              </th>
            }
            <th class="tools"></th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track $index; let at = $index; let last = $last) {
            <tr>
              @for (column of columns(); track column.key) {
                <td>
                  @switch (column.kind) {
                    @case ('check') {
                      <input
                        #on
                        type="checkbox"
                        [checked]="row[column.key]"
                        [attr.aria-label]="column.caption + ' of ' + named(row)"
                        (change)="set(at, column, on.checked)"
                      />
                    }
                    @case ('choice') {
                      <select
                        #choice
                        class="fx-field"
                        [attr.aria-label]="column.caption + ' of ' + named(row)"
                        (change)="set(at, column, choice.value)"
                      >
                        @for (option of column.choices; track option[0]) {
                          <option [value]="option[0]" [selected]="option[0] === row[column.key]">
                            {{ option[1] }}
                          </option>
                        }
                      </select>
                    }
                    @default {
                      <input
                        #field
                        class="fx-field"
                        autocomplete="off"
                        [class.measure]="column.kind === 'number'"
                        [attr.inputmode]="column.kind === 'number' ? 'decimal' : null"
                        [attr.aria-label]="column.caption + ' of ' + named(row)"
                        [attr.aria-invalid]="wrong() === at + ' ' + column.key"
                        [value]="row[column.key]"
                        (change)="typed(at, column, field.value)"
                      />
                    }
                  }
                </td>
              }
              <td class="tools">
                <span>
                  @if (ordered()) {
                    <button
                      matIconButton
                      type="button"
                      [disabled]="at === 0"
                      [attr.aria-label]="'Move ' + named(row) + ' up'"
                      (click)="move(at, -1)"
                    >
                      <mat-icon aria-hidden="true">arrow_upward</mat-icon>
                    </button>
                    <button
                      matIconButton
                      type="button"
                      [disabled]="last"
                      [attr.aria-label]="'Move ' + named(row) + ' down'"
                      (click)="move(at, 1)"
                    >
                      <mat-icon aria-hidden="true">arrow_downward</mat-icon>
                    </button>
                  }
                  <button matIconButton type="button" [attr.aria-label]="'Remove ' + named(row)" (click)="remove(at)">
                    <mat-icon aria-hidden="true">delete</mat-icon>
                  </button>
                </span>
              </td>
            </tr>
          }
        </tbody>
      </table>
    } @else {
      <p class="quiet">{{ empty() }}</p>
    }
    @if (problem(); as sentence) {
      <p class="wrong" role="alert">{{ sentence }}</p>
    }
    <button matButton type="button" class="fx-act" (click)="add()">{{ adding() }}</button>
  `,
  styles: `
    :host {
      display: grid;
      justify-items: start;
      gap: var(--fx-gap-2);
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      padding: 0 var(--fx-gap-1) var(--fx-gap-1);
      text-align: left;
    }
    td {
      padding: 2px var(--fx-gap-1);
    }
    .measure {
      text-align: right;
    }
    .tools {
      width: 104px;
      text-align: right;
      white-space: nowrap;
    }
    .tools span {
      display: flex;
      justify-content: flex-end;
    }
    .fx-bare mat-icon {
      --fx-icon: 18px;
    }
    .wrong {
      color: var(--fx-signal);
    }
  `,
})
export class Rows {
  readonly name = input.required<string>();
  readonly columns = input.required<readonly Column[]>();
  readonly rows = input.required<readonly Row[]>();
  /** What a new row begins as. */
  readonly blank = input.required<Row>();
  readonly adding = input.required<string>();
  readonly empty = input('Nothing yet.');
  /** True where the order of the rows counts. */
  readonly ordered = input(false);
  readonly changed = output<Row[]>();

  protected readonly shares = computed(() => this.columns().reduce((sum, { share = 1 }) => sum + share, 0));
  protected readonly problem = linkedSignal({ source: this.rows, computation: () => '' });
  /** Row and column of what cannot be. */
  protected readonly wrong = signal('');

  protected named(row: Row): string {
    return String(row[this.columns()[0]!.key] ?? '') || 'the new one';
  }

  protected typed(at: number, column: Column, text: string): void {
    const sentence = this.refusal(at, column, text);
    this.problem.set(sentence);
    this.wrong.set(sentence ? `${at} ${column.key}` : '');
    if (sentence) return;
    this.set(at, column, column.kind === 'number' ? Number(text.replace(',', '.')) : text.trim());
  }

  protected set(at: number, { key }: Column, value: Value): void {
    this.changed.emit(this.rows().map((row, i) => (i === at ? { ...row, [key]: value } : row)));
  }

  protected add(): void {
    this.changed.emit([...this.rows(), this.blank()]);
  }

  protected remove(at: number): void {
    this.changed.emit(this.rows().filter((_, i) => i !== at));
  }

  protected move(at: number, by: number): void {
    const rows = [...this.rows()];
    const [row] = rows.splice(at, 1);
    rows.splice(at + by, 0, row!);
    this.changed.emit(rows);
  }

  private refusal(at: number, column: Column, text: string): string {
    const { caption, kind, least = -Infinity, most = Infinity, pattern, patternWords = '', optional = false } = column;
    if (kind === 'number') {
      const value = Number(text.replace(',', '.'));
      const fits = text.trim() !== '' && value >= least && value <= most;
      return fits ? '' : `${caption} is a number from ${least} to ${most}; it stays as it was.`;
    }
    if (text.trim() === '') return optional ? '' : `${caption} must not be blank; it stays as it was.`;
    if (pattern && !pattern.test(text.trim())) return `${caption} is ${patternWords}; it stays as it was.`;
    const first = this.columns()[0]!.key === column.key && !column.repeats;
    const taken = first && this.rows().some((row, i) => i !== at && same(row[column.key], text));
    return taken ? `${text.trim()} is there already; give each its own ${caption.toLowerCase()}.` : '';
  }
}

function same(a: Value | undefined, b: string): boolean {
  return String(a).trim().toLowerCase() === b.trim().toLowerCase();
}
