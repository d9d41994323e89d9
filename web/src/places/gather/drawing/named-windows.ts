import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { MatButton, MatIconButton } from '@angular/material/button';
import type { NamedWindow } from '@folvex/core';
import { TextField } from '../../../forms/text-field';

/** The windows of a drawing that have names; one just drawn can be given one. */
@Component({
  selector: 'fx-named-windows',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, TextField],
  template: `
    <section aria-label="Windows">
      <h2>Windows</h2>
      @if (drawn()) {
        <div class="new">
          <fx-text
            bare
            caption="Name of the window"
            placeholder="Name, such as Stair B"
            [value]="name()"
            [problem]="taken() ? 'Another window has this name.' : ''"
            (typed)="name.set($event)"
            (keydown.enter)="keep()"
          />
          <button matButton type="button" class="fx-act" [disabled]="name().trim() === '' || taken()" (click)="keep()">
            Save
          </button>
        </div>
      }
      <ul>
        @for (window of windows(); track window.name) {
          <li>
            <button matButton type="button" class="fx-act" (click)="takenUp.emit(window)">{{ window.name }}</button>
            <button
              matIconButton
              type="button"
              [attr.aria-label]="'Remove window ' + window.name"
              (click)="remove(window)"
            >
              <mat-icon svgIcon="close" />
            </button>
          </li>
        }
      </ul>
    </section>
  `,
  styles: `
    form,
    li {
      display: flex;
      align-items: center;
      justify-content: space-between;
      gap: var(--fx-gap-2);
    }
    ul {
      margin: var(--fx-gap-1) 0;
      padding: 0;
      list-style: none;
    }
  `,
})
export class NamedWindows {
  readonly windows = input.required<readonly NamedWindow[]>();
  /** Corners of one that has no name yet, in the drawing's unit. */
  readonly drawn = input<NamedWindow['window'] | null>(null);
  /** All of them, as they are to be from now on. */
  readonly changed = output<NamedWindow[]>();
  readonly takenUp = output<NamedWindow>({ alias: 'taken' });

  protected readonly name = signal('');
  protected readonly taken = computed(() =>
    this.windows().some(({ name }) => name.toLowerCase() === this.name().trim().toLowerCase()),
  );

  protected keep(): void {
    const window = this.drawn();
    const name = this.name().trim();
    if (!window || !name || this.taken()) return;
    this.changed.emit([...this.windows(), { name, window }]);
    this.name.set('');
  }

  protected remove(gone: NamedWindow): void {
    this.changed.emit(this.windows().filter(({ name }) => name !== gone.name));
  }
}
