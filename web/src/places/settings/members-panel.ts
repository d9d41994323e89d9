import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { Store } from '@ngrx/store';
import { invitationSchema, ROLES, type Member, type Role } from '@folvex/contract';
import { ChoiceField } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { problemWith } from '../../forms/yup-validator';
import { OfficeActions } from '../../state/office/office.actions';
import { officeFeature } from '../../state/office/office.reducer';
import { selectAccount, selectIsLead } from '../../state/session/session.reducer';
import { ROLE_WORDS } from '../../ui/roles';
import { momentInWords } from '../../ui/words';

const ROLE_OPTIONS = ROLES.map((value) => ({ value, words: ROLE_WORDS[value].name }));

/** Who works on the project, and in which role. */
@Component({
  selector: 'fx-members',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatTableModule, TextField],
  template: `
    <h2>Members</h2>
    <p class="quiet">
      Readers view and download. Drafters edit and publish. Leads can also issue, choose destinations, remove things and
      invite people. Owners of the installation can do everything and are not listed.
    </p>
    @if (members().length > 0) {
      <table mat-table aria-label="Members" [dataSource]="members()">
        <ng-container matColumnDef="name">
          <th mat-header-cell *matHeaderCellDef>Name</th>
          <td mat-cell *matCellDef="let member">{{ member.name }}</td>
        </ng-container>
        <ng-container matColumnDef="email">
          <th mat-header-cell *matHeaderCellDef>Email</th>
          <td mat-cell *matCellDef="let member">{{ member.email }}</td>
        </ng-container>
        <ng-container matColumnDef="role">
          <th mat-header-cell *matHeaderCellDef>Role</th>
          <td mat-cell *matCellDef="let member">
            @if (isLead() && member.account !== own()) {
              <fx-choice
                bare
                [caption]="'Role of ' + member.name"
                [value]="member.role"
                [options]="roles"
                (chosen)="change(member, $event)"
              />
            } @else {
              {{ nameOf(member) }}
            }
          </td>
        </ng-container>
        <ng-container matColumnDef="actions">
          <th mat-header-cell *matHeaderCellDef><span class="fx-visually-hidden">Actions</span></th>
          <td mat-cell *matCellDef="let member">
            @if (isLead() && member.account !== own()) {
              <button
                matButton
                type="button"
                class="fx-act"
                [attr.aria-label]="'Remove ' + member.name"
                (click)="change(member, null)"
              >
                Remove
              </button>
            }
          </td>
        </ng-container>
        <tr mat-header-row *matHeaderRowDef="columns"></tr>
        <tr mat-row *matRowDef="let row; columns: columns"></tr>
      </table>
    } @else {
      <p class="quiet">Only the owners so far.</p>
    }
    @if (isLead()) {
      <h3>Invite</h3>
      <form (submit)="$event.preventDefault(); invite()" aria-label="Invite">
        <fx-text
          caption="Email"
          placeholder="name@office.example"
          [value]="email()"
          [problem]="mistake()"
          (typed)="email.set($event); mistake.set('')"
        />
        <fx-choice caption="Role" [value]="role()" [options]="roles" (chosen)="role.set($event)" />
        <button matButton="outlined" type="submit">Invite</button>
      </form>
      @if (invitation(); as made) {
        <p role="status">
          Send this link to {{ made.email }}; it works once, until {{ moment(made.expiresAt) }}:
          <br />
          <code>{{ made.link }}</code>
        </p>
      }
    }
  `,
  styles: `
    p {
      margin-bottom: var(--fx-gap-3);
    }
    table {
      width: 100%;
    }
    h3 {
      margin-top: var(--fx-gap-4);
    }
    form {
      display: grid;
      grid-template-columns: minmax(200px, 1fr) 160px auto;
      align-items: start;
      gap: var(--fx-gap-3);
    }
    form button {
      margin-top: 20px;
    }
    code {
      overflow-wrap: anywhere;
      user-select: all;
    }
  `,
})
export class MembersPanel {
  private readonly store = inject(Store);
  private readonly found = this.store.selectSignal(officeFeature.selectMembers);
  protected readonly members = computed(() => this.found() ?? []);
  protected readonly invitation = this.store.selectSignal(officeFeature.selectInvitation);
  protected readonly isLead = this.store.selectSignal(selectIsLead);
  private readonly account = this.store.selectSignal(selectAccount);
  protected readonly own = computed(() => this.account()?.id);
  protected readonly columns = ['name', 'email', 'role', 'actions'];
  protected readonly roles = ROLE_OPTIONS;
  protected readonly moment = momentInWords;
  protected readonly email = signal('');
  protected readonly role = signal<Role>('drafter');
  protected readonly mistake = signal('');

  constructor() {
    this.store.dispatch(OfficeActions.membersAskedFor());
  }

  protected nameOf({ role }: Member): string {
    return ROLE_WORDS[role].name;
  }

  protected change({ account }: Member, role: Role | null): void {
    this.store.dispatch(OfficeActions.roleChangeAskedFor({ account, role }));
  }

  protected invite(): void {
    const invitation = { email: this.email(), role: this.role() };
    this.mistake.set(problemWith(invitationSchema, invitation) ?? '');
    if (this.mistake() !== '') return;
    this.store.dispatch(OfficeActions.invitationAskedFor(invitation));
    this.email.set('');
  }
}
