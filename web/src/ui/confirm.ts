import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import {
  MAT_DIALOG_DATA,
  MatDialog,
  MatDialogActions,
  MatDialogClose,
  MatDialogContent,
  MatDialogTitle,
} from '@angular/material/dialog';
import { map, type Observable } from 'rxjs';

/** A question before something is done, with what it affects. */
export interface Question {
  title: string;
  lines: readonly string[];
  /** Words of the button that does it; without them the dialog only says why it cannot be done. */
  action?: string;
}

@Component({
  selector: 'fx-confirm',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle],
  template: `
    <h2 mat-dialog-title>{{ question.title }}</h2>
    <mat-dialog-content>
      @for (line of question.lines; track line) {
        <p>{{ line }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions>
      @if (question.action; as action) {
        <button matButton type="button" mat-dialog-close>Cancel</button>
        <button matButton="filled" type="button" [mat-dialog-close]="true" cdkFocusInitial>{{ action }}</button>
      } @else {
        <button matButton="filled" type="button" mat-dialog-close cdkFocusInitial>Close</button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    p + p {
      margin-top: var(--fx-gap-2);
    }
  `,
})
class Confirm {
  protected readonly question = inject<Question>(MAT_DIALOG_DATA);
}

/** Asks a person; emits once, true where the answer is yes. */
export function confirm(dialog: MatDialog, question: Question): Observable<boolean> {
  const open = dialog.open<Confirm, Question, boolean>(Confirm, { data: question, width: '440px' });
  return open.afterClosed().pipe(map((answer) => answer === true));
}
