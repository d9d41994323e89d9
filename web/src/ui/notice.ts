import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { MatIconButton } from '@angular/material/button';
import { placeInWords, type Problem } from '@folvex/core';

/** One problem in one line, above the place where it happened. */
@Component({
  selector: 'fx-notice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon, MatIconButton],
  template: `
    <mat-icon aria-hidden="true">error</mat-icon>
    <p role="alert">
      {{ problem().sentence }}
      @if (place()) {
        <span>{{ place() }}</span>
      }
    </p>
    <button matIconButton type="button" aria-label="Dismiss" (click)="dismissed.emit()">
      <mat-icon>close</mat-icon>
    </button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-2);
      padding: var(--fx-gap-1) var(--fx-gap-4);
      border-bottom: 1px solid var(--fx-signal);
      background: var(--fx-signal-wash);
    }
    mat-icon {
      flex: none;
      color: var(--fx-signal);
    }
    p {
      flex: 1;
    }
    span {
      color: var(--fx-quiet);
    }
  `,
})
export class Notice {
  readonly problem = input.required<Problem>();
  readonly dismissed = output();
  protected readonly place = computed(() => placeInWords(this.problem().place));
}
