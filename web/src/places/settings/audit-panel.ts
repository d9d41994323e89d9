import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { Store } from '@ngrx/store';
import { AUDIT_EVENTS, ROUTES, type AuditRow } from '@folvex/contract';
import { OfficeActions } from '../../state/office/office.actions';
import { officeFeature } from '../../state/office/office.reducer';
import { secondInWords } from '../../ui/words';

/** Who did what and when, in the whole installation. */
@Component({
  selector: 'fx-audit',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatTableModule],
  template: `
    <h2>Audit</h2>
    <p class="quiet">
      Everything done in this installation, across all projects. Entries cannot be changed or removed.
      <a matButton class="fx-act" [href]="csv" download>Download as CSV</a>
    </p>
    <table mat-table aria-label="Audit" [dataSource]="rows()">
      <ng-container matColumnDef="at">
        <th mat-header-cell *matHeaderCellDef>When</th>
        <td mat-cell *matCellDef="let row">{{ moment(row.at) }}</td>
      </ng-container>
      <ng-container matColumnDef="name">
        <th mat-header-cell *matHeaderCellDef>Who</th>
        <td mat-cell *matCellDef="let row">{{ row.name ?? '–' }}</td>
      </ng-container>
      <ng-container matColumnDef="what">
        <th mat-header-cell *matHeaderCellDef>What</th>
        <td mat-cell *matCellDef="let row">{{ whatOf(row) }}</td>
      </ng-container>
      <ng-container matColumnDef="project">
        <th mat-header-cell *matHeaderCellDef>Project</th>
        <td mat-cell *matCellDef="let row">{{ row.project }}</td>
      </ng-container>
      <tr mat-header-row *matHeaderRowDef="columns"></tr>
      <tr mat-row *matRowDef="let row; columns: columns"></tr>
    </table>
    @if (audit() !== null && !isWhole()) {
      <button matButton type="button" class="fx-act" (click)="showOlder()">Show older entries</button>
    }
  `,
  styles: `
    table {
      width: 100%;
    }
    td:first-child {
      white-space: nowrap;
    }
  `,
})
export class AuditPanel {
  private readonly store = inject(Store);
  protected readonly audit = this.store.selectSignal(officeFeature.selectAudit);
  protected readonly isWhole = this.store.selectSignal(officeFeature.selectIsAuditWhole);
  protected readonly rows = computed(() => this.audit() ?? []);
  protected readonly columns = ['at', 'name', 'what', 'project'];
  protected readonly csv = ROUTES.auditCsv;
  protected readonly moment = secondInWords;

  constructor() {
    this.store.dispatch(OfficeActions.auditAskedFor({}));
  }

  protected whatOf({ event, subject }: AuditRow): string {
    return subject ? `${AUDIT_EVENTS[event]}: ${subject}` : AUDIT_EVENTS[event];
  }

  protected showOlder(): void {
    const before = this.rows().at(-1)?.id;
    if (before !== undefined) this.store.dispatch(OfficeActions.auditAskedFor({ before }));
  }
}
