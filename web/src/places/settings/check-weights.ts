import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FINDINGS, type ProjectFacts } from '@folvex/core';
import { omitKey } from '../../ui/omit-key';
import { SettingsEditor } from '../../state/settings-editor';

type Weight = NonNullable<ProjectFacts['checks']>[string];

const WEIGHTS: readonly (readonly [Weight, string])[] = [
  ['stop', 'stops a run'],
  ['warning', 'warning'],
  ['note', 'note'],
  ['off', 'not looked for'],
];

/** What is examined before a run, and how much each finding matters in this project. */
@Component({
  selector: 'fx-check-weights',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Checks</h2>
    <p class="quiet">What is examined before a run. What makes files wrong or impossible always stops it.</p>
    <table aria-label="Checks">
      <tbody>
        @for (row of rows(); track row.code) {
          <tr [class.changed]="row.changed">
            <td>{{ row.finds }}</td>
            <td>
              @if (row.fixed) {
                <span class="quiet">always stops</span>
              } @else {
                <select
                  #weight
                  class="fx-field"
                  [attr.aria-label]="'Weight of ' + row.finds"
                  (change)="weigh(row.code, row.usual, weight.value)"
                >
                  @for (option of weights; track option[0]) {
                    <option [value]="option[0]" [selected]="option[0] === row.weight">
                      {{ option[1] }}{{ option[0] === row.usual ? ' (usual)' : '' }}
                    </option>
                  }
                </select>
              }
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    table {
      width: 100%;
      border-collapse: collapse;
    }
    td {
      padding: 3px var(--fx-gap-2) 3px 0;
      border-bottom: 1px solid var(--fx-line);
    }
    td:first-child {
      padding-left: var(--fx-gap-2);
      border-left: 3px solid transparent;
    }
    .changed td:first-child {
      border-left-color: var(--fx-signal);
    }
    td:last-child {
      width: 190px;
    }
    .quiet {
      color: var(--fx-quiet);
    }
  `,
})
export class CheckWeights {
  private readonly editor = inject(SettingsEditor);
  protected readonly weights = WEIGHTS;
  protected readonly rows = computed(() => {
    const own = this.editor.facts()?.checks ?? {};
    return FINDINGS.map(([code, usual, finds]) => ({
      ...{ code, usual, finds: finds[0]!.toUpperCase() + finds.slice(1), fixed: usual === 'stop' },
      ...{ weight: own[code] ?? usual, changed: own[code] !== undefined },
    }));
  });

  protected weigh(code: string, usual: string, chosen: string): void {
    const others = omitKey(this.editor.facts()?.checks, code);
    this.editor.changeFacts({ checks: chosen === usual ? others : { ...others, [code]: chosen as Weight } });
  }
}
