import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** The frame of the pages that come before signing in. */
@Component({
  selector: 'fx-gate',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section [class.wide]="wide()">
      <p class="mark">Folvex</p>
      <h1>{{ title() }}</h1>
      <ng-content />
    </section>
  `,
  styles: `
    :host {
      display: grid;
      min-height: 100vh;
      place-items: center;
      padding: var(--fx-gap-4);
      box-sizing: border-box;
    }
    section {
      display: grid;
      gap: var(--fx-gap-4);
      width: min(400px, 100%);
      padding: var(--fx-gap-6);
      border: 1px solid var(--fx-line);
      border-top: 4px solid var(--fx-signal);
      background: var(--fx-surface);
      box-sizing: border-box;
    }
    section.wide {
      width: min(760px, 100%);
    }
    .mark {
      margin: 0;
      color: var(--fx-quiet);
      font: 600 15px var(--fx-label);
    }
    :host ::ng-deep form {
      display: grid;
      gap: var(--fx-gap-3);
    }
  `,
})
export class GatePage {
  readonly title = input.required<string>();
  /** True where it shows a table. */
  readonly wide = input(false);
}
