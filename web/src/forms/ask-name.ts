import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import {
  MAT_DIALOG_DATA,
  MatDialog,
  MatDialogActions,
  MatDialogClose,
  MatDialogContent,
  MatDialogRef,
  MatDialogTitle,
} from '@angular/material/dialog';
import { filter, type Observable } from 'rxjs';
import { string } from 'yup';
import { TextField } from './text-field';
import { problemWith } from './yup-validator';

/** What is to be named, and what it is called now. */
export interface NameQuestion {
  title: string;
  name: string;
  /** What the button says; absent: Rename. */
  confirm?: string;
}

const NAME = string().trim().required('Enter a name.').max(200, 'A name has at most 200 characters.');

@Component({
  selector: 'fx-ask-name',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle, TextField],
  template: `
    <h2 mat-dialog-title>{{ question.title }}</h2>
    <form (submit)="$event.preventDefault(); enter()">
      <mat-dialog-content>
        <fx-text
          caption="Name"
          [value]="question.name"
          [problem]="problem()"
          (typed)="typed.set($event); problem.set('')"
        />
      </mat-dialog-content>
      <mat-dialog-actions>
        <button matButton type="button" mat-dialog-close>Cancel</button>
        <button matButton="filled" type="submit">{{ question.confirm ?? 'Rename' }}</button>
      </mat-dialog-actions>
    </form>
  `,
})
class AskName {
  protected readonly question = inject<NameQuestion>(MAT_DIALOG_DATA);
  private readonly open = inject<MatDialogRef<AskName, string>>(MatDialogRef);
  protected readonly typed = signal(this.question.name);
  protected readonly problem = signal('');

  protected enter(): void {
    const name = this.typed().trim();
    this.problem.set(problemWith(NAME, name) ?? '');
    if (this.problem() === '') this.open.close(name);
  }
}

/** Asks for another name; emits it, unless it is the same or the person changed their mind. */
export function askName(dialog: MatDialog, question: NameQuestion): Observable<string> {
  const open = dialog.open<AskName, NameQuestion, string>(AskName, { data: question, width: '420px' });
  return open.afterClosed().pipe(filter((name): name is string => !!name && name !== question.name));
}
