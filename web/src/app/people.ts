import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import {
  MatDialog,
  MatDialogActions,
  MatDialogClose,
  MatDialogContent,
  MatDialogTitle,
} from '@angular/material/dialog';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { MAX_PERSON_NAME } from '@folvex/contract';
import { string } from 'yup';
import { TextField } from '../forms/text-field';
import { PresenceActions } from '../state/presence/presence.actions';
import { presenceFeature, selectOthers } from '../state/presence/presence.reducer';
import { ProjectLinks } from '../state/project/project-links';
import { selectAccount } from '../state/session/session.reducer';
import { selectAllSheets } from '../state/sheets/sheets.selectors';
import { nameOfPerson, peopleInWords } from '../ui/people';

const NAME = string().max(MAX_PERSON_NAME, `A name has at most ${MAX_PERSON_NAME} characters.`);

/** Who else has the project open, which sheet each is viewing, and the name that others see. */
@Component({
  selector: 'fx-people-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle, RouterLink, TextField],
  template: `
    <h2 mat-dialog-title>People in this project</h2>
    <mat-dialog-content>
      <ul aria-label="Other people">
        @for (person of others(); track person.id) {
          <li>
            <b>{{ person.name }}</b>
            @if (person.sheet; as sheet) {
              is viewing
              <a class="fx-link" [routerLink]="to('sheets', sheet.id)" mat-dialog-close>
                {{ sheet.number }} {{ sheet.title }}
              </a>
            }
          </li>
        } @empty {
          <li>Nobody else has this project open.</li>
        }
      </ul>
      @if (account() === null) {
        <fx-text
          caption="Your name"
          hint="Others see it while you have a project open. It is kept in this browser."
          [value]="name()"
          [schema]="schema"
          (entered)="rename($event)"
        />
      }
    </mat-dialog-content>
    <mat-dialog-actions>
      <button matButton="filled" type="button" mat-dialog-close>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    ul {
      margin: 0 0 var(--fx-gap-4);
      padding: 0;
      list-style: none;
    }
    li {
      padding: 4px 0;
    }
  `,
})
class PeopleDialog {
  protected readonly to = inject(ProjectLinks).to;
  private readonly store = inject(Store);
  protected readonly schema = NAME;
  /** Who is signed in is seen under the name of the account. */
  protected readonly account = this.store.selectSignal(selectAccount);
  protected readonly name = this.store.selectSignal(presenceFeature.selectName);
  private readonly people = this.store.selectSignal(selectOthers);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  protected readonly others = computed(() =>
    this.people().map((person) => ({
      id: person.id,
      name: nameOfPerson(person),
      sheet: this.sheets().find(({ id }) => id === person.sheet),
    })),
  );

  protected rename(name: string): void {
    this.store.dispatch(PresenceActions.personNamed({ name: name.trim() }));
  }
}

/** Shows who else has the project open, and opens the list of them. */
@Component({
  selector: 'fx-people',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon],
  template: `
    <button matButton type="button" [attr.aria-label]="label()" (click)="open()">
      <mat-icon svgIcon="group" aria-hidden="true" />
      @if (words(); as words) {
        <span class="words">{{ words }}</span>
      }
    </button>
    <span class="fx-visually-hidden" aria-live="polite">{{ words() ? 'Also here: ' + words() : '' }}</span>
  `,
  styles: `
    .words {
      display: inline-block;
      max-width: 180px;
      overflow: hidden;
      text-overflow: ellipsis;
      vertical-align: bottom;
      white-space: nowrap;
    }
  `,
})
export class People {
  private readonly dialog = inject(MatDialog);
  private readonly others = inject(Store).selectSignal(selectOthers);
  protected readonly words = computed(() => peopleInWords(this.others()));
  protected readonly label = computed(() => `${this.words() ? `${this.words()}: people` : 'People'} in this project`);

  protected open(): void {
    this.dialog.open(PeopleDialog, { width: '440px' });
  }
}
