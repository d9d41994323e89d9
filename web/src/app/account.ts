import { ChangeDetectionStrategy, Component, effect, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  newPasswordSchema,
  newTokenSchema,
  TOKEN_SCOPES,
  type AccountChange,
  type AccountRow,
  type TokenInfo,
  type TokenScope,
} from '@folvex/contract';
import { ChoiceField } from '../forms/choice-field';
import { NumberField } from '../forms/number-field';
import { TextField } from '../forms/text-field';
import { problemWith } from '../forms/yup-validator';
import { OfficeActions } from '../state/office/office.actions';
import { officeFeature } from '../state/office/office.reducer';
import { SessionActions } from '../state/session/session.actions';
import { selectAccount, selectIsOwner } from '../state/session/session.reducer';
import { SCOPE_WORDS } from '../ui/roles';
import { momentInWords } from '../ui/words';

/** The account of whoever is signed in: password, tokens; for owners everybody's accounts. */
@Component({
  selector: 'fx-account',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatTableModule, NumberField, RouterLink, TextField],
  templateUrl: './account.html',
  styleUrl: './account.scss',
})
export class AccountPage {
  private readonly store = inject(Store);
  protected readonly account = this.store.selectSignal(selectAccount);
  protected readonly isOwner = this.store.selectSignal(selectIsOwner);
  protected readonly accounts = this.store.selectSignal(officeFeature.selectAccounts);
  protected readonly tokens = this.store.selectSignal(officeFeature.selectTokens);
  protected readonly newToken = this.store.selectSignal(officeFeature.selectNewToken);
  private readonly passwordsChanged = this.store.selectSignal(officeFeature.selectPasswordsChanged);
  protected readonly was = signal('');
  protected readonly password = signal('');
  protected readonly passwordMistake = signal('');
  protected readonly tokenName = signal('');
  protected readonly scope = signal<TokenScope>('publish');
  protected readonly days = signal(90);
  protected readonly tokenMistake = signal('');
  protected readonly scopes = (Object.keys(TOKEN_SCOPES) as TokenScope[]).map((value) => ({
    ...{ value, words: SCOPE_WORDS[value] },
  }));
  protected readonly tokenColumns = ['name', 'scope', 'ends', 'used', 'actions'];
  protected readonly accountColumns = ['name', 'email', 'state', 'actions'];
  protected readonly moment = momentInWords;

  constructor() {
    if (this.account()) this.store.dispatch(OfficeActions.tokensAskedFor());
    if (this.account()?.isOwner) this.store.dispatch(OfficeActions.accountsAskedFor());
    effect(() => {
      this.passwordsChanged();
      this.was.set('');
      this.password.set('');
    });
  }

  protected changePassword(): void {
    this.passwordMistake.set(problemWith(newPasswordSchema, this.password()) ?? '');
    if (this.passwordMistake() !== '') return;
    this.store.dispatch(OfficeActions.passwordChangeAskedFor({ was: this.was(), password: this.password() }));
  }

  protected createToken(): void {
    const token = { name: this.tokenName(), scope: this.scope(), days: this.days() };
    this.tokenMistake.set(problemWith(newTokenSchema, token) ?? '');
    if (this.tokenMistake() !== '') return;
    this.store.dispatch(OfficeActions.tokenAskedFor({ token }));
    this.tokenName.set('');
  }

  protected wordsOf({ scope }: TokenInfo): string {
    return SCOPE_WORDS[scope];
  }

  protected revoke(id: string): void {
    this.store.dispatch(OfficeActions.tokenRevocationAskedFor({ id }));
  }

  protected change({ id }: AccountRow, change: AccountChange): void {
    this.store.dispatch(OfficeActions.accountChangeAskedFor({ account: id, change }));
  }

  protected signOut(): void {
    this.store.dispatch(SessionActions.signOutAskedFor());
  }
}
