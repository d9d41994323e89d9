import { ChangeDetectionStrategy, Component, output, signal } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import * as yup from 'yup';
import type { RunOptions } from '@folvex/contract';
import { TextField } from '../../../forms/text-field';
import { Fold } from '../../../ui/fold';

type Protect = NonNullable<RunOptions['protect']>;

/** Passwords for the files of the next run, and what may be done without them. They are typed each time and not kept. */
@Component({
  selector: 'fx-protect-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Fold, MatCheckbox, TextField],
  template: `
    <fx-fold caption="Protect the files of the next run">
      <div class="pair">
        <fx-text
          caption="Password to open"
          type="password"
          [value]="open()"
          [schema]="password"
          (typed)="open.set($event); report()"
        />
        <fx-text
          caption="Password to change"
          type="password"
          [value]="change()"
          [schema]="password"
          (typed)="change.set($event); report()"
        />
      </div>
      <div class="allowed">
        <span class="fx-caption">Without the password to change, allow</span>
        <mat-checkbox [checked]="print()" (change)="print.set($event.checked); report()">printing</mat-checkbox>
        <mat-checkbox [checked]="alter()" (change)="alter.set($event.checked); report()">changes</mat-checkbox>
        <mat-checkbox [checked]="copy()" (change)="copy.set($event.checked); report()">copying</mat-checkbox>
      </div>
    </fx-fold>
  `,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: var(--fx-gap-2);
    }
    .allowed {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 var(--fx-gap-2);
    }
  `,
})
export class ProtectPanel {
  /** Undefined: the files are not protected. */
  readonly changed = output<Protect | undefined>();

  protected readonly password = yup.string().max(127, 'A password has at most 127 characters.');
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
