import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatExpansionPanel, MatExpansionPanelHeader, MatExpansionPanelTitle } from '@angular/material/expansion';

/** What is rarely needed, behind a line that says what it is. */
@Component({
  selector: 'fx-fold',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatExpansionPanel, MatExpansionPanelHeader, MatExpansionPanelTitle],
  template: `
    <mat-expansion-panel class="mat-elevation-z0" togglePosition="before" [(expanded)]="open">
      <mat-expansion-panel-header collapsedHeight="30px" expandedHeight="30px">
        <mat-panel-title>{{ caption() }}</mat-panel-title>
      </mat-expansion-panel-header>
      <div class="inside"><ng-content /></div>
    </mat-expansion-panel>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    mat-expansion-panel {
      background: none;
    }
    mat-expansion-panel-header {
      padding: 0 4px 0 0;
    }
    mat-panel-title {
      color: var(--fx-quiet);
      font: 500 13px/1.3 var(--fx-label);
    }
    .inside {
      display: grid;
      gap: var(--fx-gap-2);
    }
  `,
})
export class Fold {
  readonly caption = input.required<string>();
  readonly open = model(false);
}
