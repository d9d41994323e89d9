import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { joinSchema } from '@folvex/contract';
import { TextField } from '../forms/text-field';
import { problemWith } from '../forms/yup-validator';
import { Lookups } from '../state/lookups/lookups';
import { SessionActions } from '../state/session/session.actions';
import { selectAccount, sessionFeature } from '../state/session/session.reducer';
import { ROLE_WORDS } from '../ui/roles';
import { GatePage } from './gate-page';

/** Accepting an invitation. */
@Component({
  selector: 'fx-join',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [GatePage, MatButton, RouterLink, TextField],
  template: `
    <fx-gate title="Join">
      @if (lookup.problem(); as sentence) {
        <p role="alert">{{ sentence }}</p>
        <a matButton routerLink="/sign-in">Sign in</a>
      } @else if (invitation(); as to) {
        <p>{{ words() }}</p>
        <form (submit)="$event.preventDefault(); join()" aria-label="Join">
          @if (to.email === null) {
            <fx-text caption="Email" autofill="username" [value]="email()" (typed)="email.set($event)" />
          } @else {
            <p class="quiet">You will sign in as {{ to.email }}.</p>
          }
          <fx-text caption="Your name" autofill="name" [value]="name()" (typed)="name.set($event)" />
          <fx-text
            caption="Password"
            type="password"
            autofill="new-password"
            hint="At least 15 characters; a few words in a row will do."
            [value]="password()"
            [problem]="mistake() || (problem()?.sentence ?? '')"
            (typed)="password.set($event); mistake.set('')"
          />
          <button matButton="filled" type="submit" [disabled]="sending()">Join</button>
        </form>
      }
    </fx-gate>
  `,
})
export class JoinPage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  /** What the link holds; `invitation` of the address. */
  readonly secret = input.required<string>({ alias: 'invitation' });
  protected readonly lookup = inject(Lookups).of('invitation', () => ({ invitation: this.secret() }));
  protected readonly invitation = this.lookup.answer;
  protected readonly words = computed(() => {
    const { isOwner = false, project = null } = this.invitation() ?? {};
    if (isOwner) return 'You will own this installation: you can invite others and do everything in it.';
    if (!project) return 'You are invited to Folvex.';
    return `You are invited to the project ${project.name}. ${ROLE_WORDS[project.role].may}`;
  });
  protected readonly problem = this.store.selectSignal(sessionFeature.selectProblem);
  protected readonly sending = this.store.selectSignal(sessionFeature.selectSending);
  private readonly account = this.store.selectSignal(selectAccount);
  protected readonly email = signal('');
  protected readonly name = signal('');
  protected readonly password = signal('');
  /** What is wrong with what was typed. */
  protected readonly mistake = signal('');
  private joining = false;

  constructor() {
    effect(() => {
      if (this.account() !== null && this.joining) void this.router.navigateByUrl('/');
    });
  }

  protected join(): void {
    const asksEmail = this.invitation()?.email === null;
    const person = { name: this.name(), password: this.password(), ...(asksEmail && { email: this.email() }) };
    const mistake = asksEmail && this.email().trim() === '' ? 'Enter the email address to sign in with.' : undefined;
    this.mistake.set(mistake ?? problemWith(joinSchema, person) ?? '');
    if (this.mistake() !== '') return;
    this.joining = true;
    this.store.dispatch(SessionActions.joinAskedFor({ join: { invitation: this.secret(), ...person } }));
  }
}
