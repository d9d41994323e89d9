import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import type { Finding, Fix, Severity } from '@folvex/core';
import { TextField } from '../../../forms/text-field';
import { ProjectLinks } from '../../../state/project/project-links';
import type { IconName } from '../../../ui/icons';

/** The icon of each severity; its word is said too. */
export const SEVERITY_ICONS: Readonly<Record<Severity, IconName>> = { stop: 'block', warning: 'warning', note: 'info' };

/** One finding: its sentence, the way to its sheet, its fix, and the choice to accept it. */
@Component({
  selector: 'fx-finding-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, RouterLink, TextField],
  template: `
    @let one = finding();
    <mat-icon [svgIcon]="one.accepted ? 'check' : icons[one.severity]" aria-hidden="true" />
    <div>
      <p>
        <span class="fx-visually-hidden">{{ one.severity }}: </span>{{ one.sentence }}
      </p>
      @if (one.accepted) {
        <p class="quiet">
          Accepted: {{ one.accepted }}
          <button matButton type="button" class="fx-act" (click)="accepted.emit('')">Undo accepting</button>
        </p>
      } @else {
        <p class="ways">
          @if (one.fix; as fix) {
            <button matButton type="button" class="fx-act" (click)="fixed.emit(fix)">{{ fix.words }}</button>
          }
          @if (one.about !== undefined && !isAdded()) {
            <a
              class="fx-link"
              [routerLink]="to('sheets', one.about)"
              [queryParams]="one.field ? { field: one.field } : {}"
              (click)="opened.emit()"
            >
              Open {{ one.place.sheet }}
            </a>
          }
          @if (one.severity !== 'stop') {
            @if (accepting()) {
              <fx-text
                bare
                caption="Reason for accepting"
                placeholder="Reason for accepting"
                (entered)="accept($event)"
                (keydown.escape)="accepting.set(false)"
              />
            } @else {
              <button matButton type="button" class="fx-act" (click)="accepting.set(true)">Accept …</button>
            }
          }
        </p>
      }
    </div>
  `,
  styleUrl: './findings.scss',
  host: { '[class]': 'finding().severity', '[class.accepted]': 'finding().accepted' },
})
export class FindingRow {
  protected readonly to = inject(ProjectLinks).to;
  readonly finding = input.required<Finding>();
  /** True where it is about a page that the package adds, which is not a sheet and cannot be opened. */
  readonly isAdded = input(false);
  /** Its sheet is being opened. */
  readonly opened = output();
  readonly fixed = output<Fix>();
  /** The reason; empty: it is no longer accepted. */
  readonly accepted = output<string>();
  protected readonly icons = SEVERITY_ICONS;
  protected readonly accepting = signal(false);

  protected accept(reason: string): void {
    if (!reason.trim()) return;
    this.accepting.set(false);
    this.accepted.emit(reason.trim());
  }
}
