import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatTableModule } from '@angular/material/table';
import * as yup from 'yup';
import { ChoiceField, type Choosable } from './choice-field';
import { limitedNumber, parseTyped, typedNumber } from './number-text';
import { SeveralField } from './several-field';
import { TextField } from './text-field';

/** A column of a list of settings. */
export interface Column {
  key: string;
  caption: string;
  kind: 'text' | 'number' | 'choice' | 'several' | 'check';
  /** Of choices: values and words. */
  choices?: readonly (readonly [value: string, words: string])[];
  /** Of a number, both in the unit of the caption. */
  least?: number;
  most?: number;
  /** What a text must be like, and how to say so. */
  pattern?: RegExp;
  patternWords?: string;
  /** Of several choices: what it means where none is made. */
  none?: string;
  /** True where a text may be blank. */
  optional?: boolean;
  /** True where several rows may say the same in the first column. */
  repeats?: boolean;
  /** Share of the width. */
  share?: number;
}

export type Value = string | number | boolean | readonly string[];
export type Row = Readonly<Record<string, Value>>;

/** A list of settings, a row each, every value changed in its place. Invalid values are reported and not passed on. */
@Component({
  selector: 'fx-rows',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatCheckbox, MatIcon, MatIconButton, MatTableModule, SeveralField, TextField],
  template: `
    @if (rows().length > 0) {
      <table mat-table [attr.aria-label]="name()" [dataSource]="indexed()" [trackBy]="byPosition">
        @for (column of columns(); track column.key) {
          <ng-container [matColumnDef]="column.key">
            <th mat-header-cell *matHeaderCellDef [style.width.%]="(100 * (column.share ?? 1)) / shares()">
              {{ column.caption }}
            </th>
            <td mat-cell *matCellDef="let item">
              @switch (column.kind) {
                @case ('check') {
                  <mat-checkbox
                    [checked]="!!item.row[column.key]"
                    [aria-label]="labelOf(column, item.row)"
                    (change)="set(item.at, column, $event.checked)"
                  />
                }
                @case ('choice') {
                  <fx-choice
                    bare
                    [caption]="labelOf(column, item.row)"
                    [value]="item.row[column.key]"
                    [options]="optionsOf(column)"
                    (chosen)="set(item.at, column, $event)"
                  />
                }
                @case ('several') {
                  <fx-several
                    [caption]="labelOf(column, item.row)"
                    [value]="severalOf(item.row, column)"
                    [options]="optionsOf(column)"
                    [none]="column.none ?? ''"
                    (chosen)="set(item.at, column, $event)"
                  />
                }
                @default {
                  <fx-text
                    bare
                    [numeric]="column.kind === 'number'"
                    [caption]="labelOf(column, item.row)"
                    [value]="textOf(item.row, column)"
                    [schema]="schemaOf(item.at, column)"
                    (entered)="enter(item.at, column, $event)"
                  />
                }
              }
            </td>
          </ng-container>
        }
        <ng-container matColumnDef="tools">
          <th mat-header-cell *matHeaderCellDef class="tools"><span class="fx-visually-hidden">Change</span></th>
          <td mat-cell *matCellDef="let item" class="tools">
            @if (ordered()) {
              <button
                matIconButton
                type="button"
                [disabled]="item.at === 0"
                [attr.aria-label]="'Move ' + named(item.row) + ' up'"
                (click)="move(item.at, -1)"
              >
                <mat-icon svgIcon="arrow_upward" aria-hidden="true" />
              </button>
              <button
                matIconButton
                type="button"
                [disabled]="item.at === rows().length - 1"
                [attr.aria-label]="'Move ' + named(item.row) + ' down'"
                (click)="move(item.at, 1)"
              >
                <mat-icon svgIcon="arrow_downward" aria-hidden="true" />
              </button>
            }
            <button
              matIconButton
              type="button"
              [attr.aria-label]="'Remove ' + named(item.row)"
              (click)="remove(item.at)"
            >
              <mat-icon svgIcon="delete" aria-hidden="true" />
            </button>
          </td>
        </ng-container>
        <tr mat-header-row *matHeaderRowDef="keys()"></tr>
        <tr mat-row *matRowDef="let row; columns: keys()"></tr>
      </table>
    } @else {
      <p class="quiet">{{ empty() }}</p>
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
    }
    th,
    td {
      padding: 3px var(--fx-gap-1);
    }
    .tools {
      width: 104px;
      text-align: right;
      white-space: nowrap;
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
  protected readonly keys = computed(() => [...this.columns().map(({ key }) => key), 'tools']);
  protected readonly indexed = computed(() => this.rows().map((row, at) => ({ row, at })));
  protected readonly byPosition = (at: number): number => at;

  protected labelOf({ caption }: Column, row: Row): string {
    return `${caption} of ${this.named(row)}`;
  }

  protected textOf(row: Row, { key }: Column): string {
    return String(row[key] ?? '');
  }

  protected severalOf(row: Row, { key }: Column): readonly string[] {
    return row[key] as readonly string[];
  }

  protected optionsOf({ choices = [] }: Column): Choosable<string>[] {
    return choices.map(([value, words]) => ({ value, words }));
  }

  /** What may be typed into a cell; the sentence says what is wrong otherwise. */
  protected schemaOf(at: number, column: Column): yup.Schema {
    if (column.kind === 'number') {
      const { least = -Infinity, most = Infinity } = column;
      return typedNumber(limitedNumber({ min: least, max: most }));
    }
    return yup.string().test('cell', (text = '', context) => {
      const message = this.refusal(at, column, text.trim());
      return message === '' || context.createError({ message });
    });
  }

  protected named(row: Row): string {
    return String(row[this.columns()[0]!.key] ?? '') || 'the new one';
  }

  protected enter(at: number, column: Column, text: string): void {
    this.set(at, column, column.kind === 'number' ? parseTyped(text)! : text.trim());
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
    const { key, caption, pattern, patternWords = '', optional = false, repeats } = column;
    if (text === '') return optional ? '' : `${caption} must not be blank.`;
    if (pattern && !pattern.test(text)) return `${caption} is ${patternWords}.`;
    const isFirst = this.columns()[0]!.key === key && !repeats;
    const taken = isFirst && this.rows().some((row, i) => i !== at && same(row[key], text));
    return taken ? `${text} is there already; give each its own ${caption.toLowerCase()}.` : '';
  }
}

function same(a: Value | undefined, b: string): boolean {
  return String(a).trim().toLowerCase() === b.trim().toLowerCase();
}
