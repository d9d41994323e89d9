import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatTooltip } from '@angular/material/tooltip';
import type { DrawingInfo } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { TextField } from '../../forms/text-field';
import { countOf } from '../../ui/words';

/** A file that came in and waits for a decision: a newer version, a new drawing, or one that needs a password. */
@Component({
  selector: 'fx-offer-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatProgressBar, MatTooltip, TextField],
  template: `
    <div class="line">
      @if (problem(); as locked) {
        <mat-icon svgIcon="lock" aria-hidden="true" />
        <p>
          {{ locked.sentence }}
          @if (from()) {
            <span class="quiet">{{ from() }}</span>
          }
        </p>
        @if (!readOnly()) {
          <fx-text
            bare
            type="password"
            [caption]="'Password of ' + name()"
            placeholder="Password"
            [disabled]="busy()"
            (entered)="unlock($event)"
          />
        }
      } @else {
        <mat-icon [svgIcon]="drawing() ? 'difference' : 'add'" aria-hidden="true" />
        <p>
          <b>{{ name() }}</b>
          @if (drawing(); as older) {
            differs from version {{ older.version }} of {{ older.name }}{{ shown() }}.
          } @else {
            is a new drawing.
          }
          @if (from()) {
            <span class="quiet">{{ from() }}</span>
          }
        </p>
        @if (drawing()) {
          <button matButton type="button" class="fx-act" (click)="changesWanted.emit()">See what changes</button>
        }
        @if (!readOnly()) {
          @if (drawing(); as older) {
            <button matButton type="button" class="fx-act" [disabled]="busy()" (click)="taken.emit('drawing')">
              Add as another drawing
            </button>
            <button mat-stroked-button type="button" [disabled]="busy()" (click)="taken.emit('version')">
              Take as version {{ older.version + 1 }}
            </button>
          } @else {
            <button mat-stroked-button type="button" [disabled]="busy()" (click)="taken.emit('drawing')">
              Add to the drawings
            </button>
          }
        }
      }
      @if (!readOnly()) {
        <button
          matIconButton
          type="button"
          [matTooltip]="dismissal()"
          [attr.aria-label]="dismissal() + ' ' + name()"
          [disabled]="busy()"
          (click)="dismissed.emit()"
        >
          <mat-icon svgIcon="close" />
        </button>
      }
      @if (busy()) {
        <mat-progress-bar class="working" mode="indeterminate" [attr.aria-label]="'Working on ' + name()" />
      }
    </div>
  `,
  styleUrl: './incoming.scss',
})
export class OfferLine {
  readonly name = input.required<string>();
  /** Where it came from, and when; empty: from this browser. */
  readonly from = input('');
  /** The drawing that it is a newer version of; undefined: it is a new one. */
  readonly drawing = input<DrawingInfo>();
  /** How many sheets show that. */
  readonly uses = input(0);
  /** Says that it needs a password; null: it does not. */
  readonly problem = input<Problem | null>(null);
  /** True while a decision is being carried out. */
  readonly busy = input(false);
  /** What the button at its end does, in a word. */
  readonly dismissal = input('Dismiss');
  /** True for somebody who may not decide. */
  readonly readOnly = input(false);

  readonly changesWanted = output<void>();
  readonly taken = output<'version' | 'drawing'>();
  readonly unlocked = output<string>();
  readonly dismissed = output<void>();

  protected shown(): string {
    return this.uses() > 0 ? `, shown on ${countOf(this.uses(), 'sheet')}` : '';
  }

  protected unlock(password: string): void {
    if (password) this.unlocked.emit(password);
  }
}
