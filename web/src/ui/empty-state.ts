import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import type { IconName } from './icons';

/** What a place shows while there is nothing in it: what comes first, and (as content) the button that does it. */
@Component({
  selector: 'fx-empty-state',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon],
  template: `
    <mat-icon [svgIcon]="icon()" aria-hidden="true" />
    <h2>{{ title() }}</h2>
    <div class="words"><ng-content /></div>
  `,
  styles: `
    :host {
      display: grid;
      justify-items: center;
      align-content: center;
      gap: var(--fx-gap-2);
      min-height: 260px;
      padding: var(--fx-gap-6);
      text-align: center;
      color: var(--fx-quiet);
    }
    h2 {
      color: var(--fx-ink);
    }
    .words {
      max-width: 46ch;
    }
    /* A button among the words is higher than a line of them. */
    :host ::ng-deep .words > .mat-mdc-button-base {
      display: flex;
      width: max-content;
      margin: var(--fx-gap-3) auto;
    }
  `,
})
export class EmptyState {
  readonly icon = input.required<IconName>();
  readonly title = input.required<string>();
}
