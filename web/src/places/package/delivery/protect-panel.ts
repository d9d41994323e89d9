import { ChangeDetectionStrategy, Component, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { RunOptions } from '@folvex/contract';

type Protect = NonNullable<RunOptions['protect']>;

/** Passwords for the files of the next run, and what may be done without them. They are typed each time and not kept. */
@Component({
  selector: 'fx-protect-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule],
  template: `
    <details>
      <summary class="fx-caption">Protect the files of the next run</summary>
      <div class="pair">
        <label>
          <span class="fx-caption">Password to open</span>
          <input
            class="fx-field"
            type="password"
            autocomplete="new-password"
            maxlength="127"
            [(ngModel)]="open"
            (ngModelChange)="report()"
          />
        </label>
        <label>
          <span class="fx-caption">Password to change</span>
          <input
            class="fx-field"
            type="password"
            autocomplete="new-password"
            maxlength="127"
            [(ngModel)]="change"
            (ngModelChange)="report()"
          />
        </label>
      </div>
      <p>
        <span class="fx-caption">Without the latter one may</span>
        <label><input type="checkbox" [(ngModel)]="print" (ngModelChange)="report()" /> print</label>
        <label><input type="checkbox" [(ngModel)]="alter" (ngModelChange)="report()" /> change</label>
        <label><input type="checkbox" [(ngModel)]="copy" (ngModelChange)="report()" /> copy</label>
      </p>
    </details>
  `,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: var(--fx-gap-2);
      margin: var(--fx-gap-2) 0;
    }
    p {
      display: flex;
      gap: var(--fx-gap-3);
    }
  `,
})
export class ProtectPanel {
  /** Undefined: the files are not protected. */
  readonly changed = output<Protect | undefined>();

  protected readonly open = signal('');
  protected readonly change = signal('');
  protected readonly print = signal(true);
  protected readonly alter = signal(false);
  protected readonly copy = signal(false);

  protected report(): void {
    const [open, change] = [this.open(), this.change()];
    const allow = { print: this.print(), change: this.alter(), copy: this.copy() };
    this.changed.emit(open || change ? { open, change, allow } : undefined);
  }
}
