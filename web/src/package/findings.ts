import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import type { Finding, Severity } from '@folvex/core';

const ICONS: Readonly<Record<Severity, string>> = { stop: 'block', warning: 'warning', note: 'info' };

/** What the checks found, stops first. */
@Component({
  selector: 'fx-findings',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon],
  template: `
    <ul aria-live="polite">
      @for (finding of findings(); track finding.code + finding.sentence) {
        <li [class]="finding.severity">
          <mat-icon aria-hidden="true">{{ icons[finding.severity] }}</mat-icon>
          <p>
            <span class="fx-visually-hidden">{{ finding.severity }}: </span>{{ finding.sentence }}
          </p>
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
    .stop p {
      font-weight: 600;
    }
    .good mat-icon {
      color: var(--fx-good);
    }
  `,
})
export class Findings {
  readonly findings = input.required<readonly Finding[]>();
  protected readonly icons = ICONS;
}
