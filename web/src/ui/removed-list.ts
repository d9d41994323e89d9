import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { momentInWords } from './words';

/** Something that was removed and can be restored. */
export interface Removed {
  id: string;
  name: string;
  /** ISO 8601 date and time. */
  removedAt: string | null;
}

/** What was removed, each with a button that restores it; nothing where nothing was. */
@Component({
  selector: 'fx-removed-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `
    @if (items().length > 0) {
      <section>
        <h2>{{ caption() }}</h2>
        <ul>
          @for (item of items(); track item.id) {
            <li>
              <span>{{ item.name }}</span>
              <span class="quiet">removed {{ moment(item) }}</span>
              <button
                matButton
                type="button"
                class="fx-act"
                [attr.aria-label]="'Restore ' + item.name"
                (click)="restored.emit(item.id)"
              >
                Restore
              </button>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    section {
      margin-top: var(--fx-gap-6);
      padding-top: var(--fx-gap-3);
      border-top: 1px solid var(--fx-line);
    }
    ul {
      display: grid;
      gap: var(--fx-gap-1);
      margin: var(--fx-gap-2) 0 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      column-gap: var(--fx-gap-3);
    }
    .quiet {
      color: var(--fx-quiet);
    }
  `,
})
export class RemovedList {
  /** Such as "Removed drawings". */
  readonly caption = input.required<string>();
  readonly items = input.required<readonly Removed[]>();
  /** Id of what is to be restored. */
  readonly restored = output<string>();

  protected moment({ removedAt }: Removed): string {
    return removedAt ? momentInWords(removedAt) : '';
  }
}
