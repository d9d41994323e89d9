import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MAT_SNACK_BAR_DATA, MatSnackBarRef } from '@angular/material/snack-bar';

/** What a notice shows; `act` does what it offers. */
export interface NoticeContent {
  sentence: string;
  failed: boolean;
  action?: { words: string; act: () => void };
}

/** The content of the snack bar: one sentence, what can be done about it, and a way to be rid of it. */
@Component({
  selector: 'fx-notice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton],
  template: `
    <mat-icon [svgIcon]="content.failed ? 'error' : 'task_alt'" aria-hidden="true" />
    <p>{{ content.sentence }}</p>
    @if (content.action; as action) {
      <button matButton type="button" (click)="act(action.act)">{{ action.words }}</button>
    }
    <button matIconButton type="button" aria-label="Dismiss" (click)="bar.dismissWithAction()">
      <mat-icon svgIcon="close" />
    </button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    p {
      flex: 1;
    }
    mat-icon,
    button {
      flex: none;
    }
  `,
})
export class NoticeBar {
  protected readonly content = inject<NoticeContent>(MAT_SNACK_BAR_DATA);
  protected readonly bar = inject(MatSnackBarRef);

  protected act(what: () => void): void {
    this.bar.dismissWithAction();
    what();
  }
}
