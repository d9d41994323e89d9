import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { StorageLookup } from '../state/lookups/storage-lookup';

/** Warns that the project or the disk will soon be full, until it is dismissed. */
@Component({
  selector: 'fx-storage-warning',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon, MatIconButton],
  template: `
    @if (warning(); as sentence) {
      <p role="status">
        <mat-icon svgIcon="warning" aria-hidden="true" />
        <span>{{ sentence }}</span>
        <button matIconButton type="button" aria-label="Dismiss" (click)="dismissed.set(sentence)">
          <mat-icon svgIcon="close" aria-hidden="true" />
        </button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-2);
      margin: 0;
      padding: 0 var(--fx-gap-4);
      border-bottom: 1px solid var(--fx-line);
      background: var(--fx-surface);
    }
    button {
      margin-left: auto;
    }
  `,
})
export class StorageWarning {
  private readonly storage = inject(StorageLookup).current.answer;
  protected readonly dismissed = signal('');
  protected readonly warning = computed(() => {
    const { warning = null } = this.storage() ?? {};
    return warning === this.dismissed() ? null : warning;
  });
}
