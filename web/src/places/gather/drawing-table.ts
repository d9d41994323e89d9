import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { RouterLink } from '@angular/router';
import type { DrawingInfo } from '@folvex/contract';
import { bytesInWords } from '@folvex/core';
import { ProjectLinks } from '../../state/project/project-links';
import { momentInWords, realSize, sizeInWords } from '../../ui/words';
import { unitOf } from '../../state/drawings/unit-of';
import { stateOf } from './sorting';

/** The drawings as rows, to compare them. */
@Component({
  selector: 'fx-drawing-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatTableModule, RouterLink],
  template: `
    <table mat-table aria-label="Drawings" [dataSource]="rows()" [trackBy]="byId">
      <ng-container matColumnDef="name">
        <th mat-header-cell *matHeaderCellDef>Drawing</th>
        <td mat-cell *matCellDef="let row">
          <a class="fx-link" [routerLink]="to('drawings', row.id)">{{ row.name }}</a>
        </td>
      </ng-container>
      @for (column of columns; track column.key) {
        <ng-container [matColumnDef]="column.key">
          <th mat-header-cell *matHeaderCellDef [class.figure]="column.figure">{{ column.caption }}</th>
          <td mat-cell *matCellDef="let row" [class.figure]="column.figure">{{ row[column.key] }}</td>
        </ng-container>
      }
      <ng-container matColumnDef="sheet">
        <th mat-header-cell *matHeaderCellDef><span class="fx-visually-hidden">Create sheet</span></th>
        <td mat-cell *matCellDef="let row">
          <button matButton type="button" class="fx-act" (click)="sheetWanted.emit(row.id)">Create sheet</button>
        </td>
      </ng-container>
      <tr mat-header-row *matHeaderRowDef="keys; sticky: true"></tr>
      <tr mat-row *matRowDef="let row; columns: keys"></tr>
    </table>
  `,
  styles: `
    table {
      width: 100%;
    }
    .figure {
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
  `,
})
export class DrawingTable {
  protected readonly to = inject(ProjectLinks).to;
  readonly drawings = input.required<readonly DrawingInfo[]>();
  /** How many sheets show each, by id. */
  readonly uses = input.required<Readonly<Record<string, number>>>();
  /** Id of a drawing that a sheet is to be created from. */
  readonly sheetWanted = output<string>();
  protected readonly columns = [
    { key: 'state', caption: 'State', figure: false },
    { key: 'unit', caption: 'Unit', figure: false },
    { key: 'size', caption: 'Size', figure: true },
    { key: 'layers', caption: 'Layers', figure: true },
    { key: 'layouts', caption: 'Layouts', figure: true },
    { key: 'uses', caption: 'Sheets', figure: true },
    { key: 'version', caption: 'Version', figure: true },
    { key: 'bytes', caption: 'File', figure: true },
    { key: 'arrived', caption: 'Arrived', figure: true },
  ] as const;
  protected readonly keys = ['name', ...this.columns.map(({ key }) => key), 'sheet'];
  protected readonly byId = (_: number, { id }: { id: string }): string => id;
  protected readonly rows = computed(() =>
    this.drawings().map((drawing) => {
      const uses = this.uses()[drawing.id] ?? 0;
      const size = realSize(drawing);
      return {
        ...{ id: drawing.id, name: drawing.name, uses, version: drawing.version },
        state: stateOf(drawing, uses),
        unit: unitOf(drawing) ?? '',
        size: size ? sizeInWords(size) : '',
        layers: drawing.layers.length,
        layouts: drawing.layouts.length,
        bytes: bytesInWords(drawing.bytes),
        arrived: momentInWords(drawing.at),
      };
    }),
  );
}
