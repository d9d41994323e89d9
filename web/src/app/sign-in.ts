import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { ROUTES, signInSchema } from '@folvex/contract';
import { TextField } from '../forms/text-field';
import { problemWith } from '../forms/yup-validator';
import { SessionActions } from '../state/session/session.actions';
import { selectSignedOut, sessionFeature } from '../state/session/session.reducer';
import { GatePage } from './gate-page';

/** Signing in, with a password or by the provider that the office uses. */
@Component({
  selector: 'fx-sign-in',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [GatePage, MatButton, TextField],
  template: `
    <fx-gate title="Sign in">
      <form (submit)="$event.preventDefault(); signIn()" aria-label="Sign in">
        <fx-text caption="Email" autofill="username" [value]="email()" (typed)="email.set($event)" />
        <fx-text
          caption="Password"
          type="password"
          autofill="current-password"
          [value]="password()"
          [problem]="mistake() || (problem()?.sentence ?? '')"
          (typed)="password.set($event); mistake.set('')"
        />
        <button matButton="filled" type="submit" [disabled]="sending()">
          {{ sending() ? 'Signing in …' : 'Sign in' }}
        </button>
      </form>
      @if (info()?.openId; as provider) {
        <a matButton="outlined" [href]="openId">Sign in with {{ provider }}</a>
      }
      <p class="quiet">No account yet? Ask a lead of your project for an invitation.</p>
    </fx-gate>
  `,
})
export class SignInPage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  /** Address to go on to. */
  readonly back = input('/');
  protected readonly info = this.store.selectSignal(sessionFeature.selectInfo);
  protected readonly problem = this.store.selectSignal(sessionFeature.selectProblem);
  protected readonly sending = this.store.selectSignal(sessionFeature.selectSending);
  private readonly signedOut = this.store.selectSignal(selectSignedOut);
  protected readonly openId = ROUTES.openId;
  protected readonly email = signal('');
  protected readonly password = signal('');
  /** What is wrong with what was typed. */
  protected readonly mistake = signal('');

  constructor() {
    effect(() => {
      if (this.info() !== null && !this.signedOut()) void this.router.navigateByUrl(ownAddress(this.back()));
    });
  }

  protected signIn(): void {
    const signIn = { email: this.email(), password: this.password() };
    this.mistake.set(problemWith(signInSchema, signIn) ?? '');
    if (this.mistake() === '') this.store.dispatch(SessionActions.signInAskedFor({ signIn }));
  }
}

/** Only addresses of this application: a link must not lead elsewhere after signing in. */
function ownAddress(address: string | undefined): string {
  return address && /^\/(?![/\\])/.test(address) ? address : '/';
}
