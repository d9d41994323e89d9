import { ChangeDetectionStrategy, Component, input, output, signal, inject } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { MatButton } from '@angular/material/button';
import { findingKey, type Finding, type Fix, type Severity } from '@folvex/core';
import { TextField } from '../../../forms/text-field';
import { ProjectLinks } from '../../../state/project/project-links';

const ICONS: Readonly<Record<Severity, string>> = { stop: 'block', warning: 'warning', note: 'info' };

/** What the checks found, stops first: each with a link to its sheet, its fix, and the choice to accept it. */
@Component({
  selector: 'fx-findings',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, RouterLink, TextField],
  template: `
    <ul aria-live="polite" aria-label="Findings">
      @for (finding of findings(); track key(finding)) {
        <li [class]="finding.severity" [class.accepted]="finding.accepted">
          <mat-icon aria-hidden="true">{{ finding.accepted ? 'check' : icons[finding.severity] }}</mat-icon>
          <div>
            <p>
              <span class="fx-visually-hidden">{{ finding.severity }}: </span>{{ finding.sentence }}
            </p>
            @if (finding.accepted) {
              <p class="quiet">
                Accepted: {{ finding.accepted }}
                <button matButton type="button" class="fx-act" (click)="accepted.emit({ finding, reason: '' })">
                  Undo accepting
                </button>
              </p>
            } @else {
              <p class="ways">
                @if (finding.fix; as fix) {
                  <button matButton type="button" class="fx-act" (click)="fixed.emit(fix)">{{ fix.words }}</button>
                }
                @if (finding.about !== undefined && !added().includes(finding.about)) {
                  <a class="fx-link" [routerLink]="to('sheets', finding.about)">Open {{ finding.place.sheet }}</a>
                }
                @if (finding.severity !== 'stop') {
                  @if (accepting() === key(finding)) {
                    <fx-text
                      bare
                      caption="Reason for accepting"
                      placeholder="Reason for accepting"
                      (entered)="accept(finding, $event)"
                      (keydown.escape)="accepting.set('')"
                    />
                  } @else {
                    <button matButton type="button" class="fx-act" (click)="accepting.set(key(finding))">
                      Accept …
                    </button>
                  }
                }
              </p>
            }
          </div>
        </li>
      } @empty {
        <li class="good">
          <mat-icon aria-hidden="true">check_circle</mat-icon>
          <p>Names, order and sheets are in order.</p>
        </li>
      }
    </ul>
  `,
  styles: `
    li {
      display: flex;
      gap: var(--fx-gap-2);
      padding: 5px 0;
      border-bottom: 1px solid var(--fx-line);

      > div {
        flex: 1;
        min-width: 0;
      }
    }
    mat-icon {
      flex: none;
      --fx-icon: 20px;
      color: var(--fx-quiet);
    }
    .stop mat-icon,
    .warning mat-icon {
      color: var(--fx-signal);
    }
    .stop p:first-child {
      font-weight: 600;
    }
    .good mat-icon,
    .accepted mat-icon {
      color: var(--fx-good);
    }
    .accepted,
    .quiet {
      color: var(--fx-quiet);
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 var(--fx-gap-3);
      font-size: 13px;

      fx-text {
        flex: 1 1 120px;
        min-width: 0;
      }
    }
  `,
})
export class Findings {
  protected readonly to = inject(ProjectLinks).to;
  readonly findings = input.required<readonly Finding[]>();
  /** Ids of pages that the package adds: they are no sheets that could be opened. */
  readonly added = input<readonly string[]>([]);
  readonly fixed = output<Fix>();
  /** A finding that is accepted; without a reason it is no longer. */
  readonly accepted = output<{ finding: Finding; reason: string }>();
  protected readonly icons = ICONS;
  protected readonly key = findingKey;
  /** The finding for which a reason is being typed. */
  protected readonly accepting = signal('');

  protected accept(finding: Finding, reason: string): void {
    if (!reason.trim()) return;
    this.accepted.emit({ finding, reason: reason.trim() });
    this.accepting.set('');
  }
}
