import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FINDINGS, type ProjectFacts } from '@folvex/core';
import { omitKey } from '../../state/omit-key';
import { SettingsEditor } from '../../state/project/settings-editor';
import { ChoiceField } from '../../forms/choice-field';
import { MatTableModule } from '@angular/material/table';

type Weight = NonNullable<ProjectFacts['checks']>[string];

const WEIGHTS: readonly (readonly [Weight, string])[] = [
  ['stop', 'stops a run'],
  ['warning', 'warning'],
  ['note', 'note'],
  ['off', 'off'],
];

/** What is examined before a run, and how much each finding matters in this project. */
@Component({
  selector: 'fx-check-weights',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatTableModule],
  template: `
    <h2>Checks</h2>
    <p class="quiet">Run before publishing. Findings that would make files wrong or impossible always stop a run.</p>
    <table mat-table aria-label="Checks" [dataSource]="rows()">
      <ng-container matColumnDef="finds">
        <td mat-cell *matCellDef="let row" [class.changed]="row.changed">{{ row.finds }}</td>
      </ng-container>
      <ng-container matColumnDef="weight">
        <td mat-cell *matCellDef="let row">
          @if (row.fixed) {
            <span class="quiet">always stops</span>
          } @else {
            <fx-choice
              bare
              [caption]="'Weight of ' + row.finds"
              [value]="row.weight"
              [options]="row.options"
              (chosen)="weigh(row.code, row.usual, $event)"
            />
          }
        </td>
      </ng-container>
      <tr mat-row *matRowDef="let row; columns: ['finds', 'weight']"></tr>
    </table>
  `,
  styles: `
    table {
      width: 100%;
    }
    td:first-child {
      border-left: 3px solid transparent;
    }
    td.changed {
      border-left-color: var(--fx-signal);
    }
    td:last-child {
      width: 210px;
    }
  `,
})
export class CheckWeights {
  private readonly editor = inject(SettingsEditor);
  protected readonly rows = computed(() => {
    const own = this.editor.facts()?.checks ?? {};
    return FINDINGS.map(([code, usual, finds]) => ({
      ...{ code, usual, finds: finds[0]!.toUpperCase() + finds.slice(1), fixed: usual === 'stop' },
      ...{ weight: own[code] ?? usual, changed: own[code] !== undefined },
      options: WEIGHTS.map(([value, words]) => ({ value, words: value === usual ? `${words} (default)` : words })),
    }));
  });

  protected weigh(code: string, usual: string, chosen: string): void {
    const others = omitKey(this.editor.facts()?.checks, code);
    this.editor.changeFacts({ checks: chosen === usual ? others : { ...others, [code]: chosen as Weight } });
  }
}
