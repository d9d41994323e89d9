import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import { DrawingActions } from '../../state/drawings/drawings.actions';
import type { Upload } from '../../state/drawings/drawings.reducer';
import { selectAllUploads, selectDrawingEntities, selectUses } from '../../state/drawings/drawings.selectors';
import { countOf } from '../../ui/words';
import { OfferLine } from './offer-line';

/** Files on their way in, and those about which something is to be decided. */
@Component({
  selector: 'fx-incoming',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatProgressBar, OfferLine],
  templateUrl: './incoming.html',
  styleUrl: './incoming.scss',
})
export class Incoming {
  /** Id of the upload whose changes are asked for. */
  readonly changesWanted = output<number>();

  private readonly store = inject(Store);
  protected readonly uploads = this.store.selectSignal(selectAllUploads);
  private readonly drawings = this.store.selectSignal(selectDrawingEntities);
  private readonly uses = this.store.selectSignal(selectUses);
  protected readonly moving = computed(() => this.uploads().filter(({ state }) => state === 'moving'));
  protected readonly received = computed(() => this.uploads().filter(({ state }) => state !== 'moving'));
  protected readonly newer = computed(() => this.uploads().filter(({ state }) => state === 'newer'));
  protected readonly share = computed(() => {
    const moving = this.moving();
    return moving.reduce((sum, { share }) => sum + share, 0) / (moving.length || 1);
  });
  protected readonly counted = countOf;

  protected drawingOf(upload: Upload) {
    return this.drawings()[upload.drawing ?? ''];
  }

  protected usesOf(upload: Upload): number {
    return this.uses()[upload.drawing ?? ''] ?? 0;
  }

  protected take(upload: Upload, as: 'version' | 'drawing'): void {
    this.store.dispatch(DrawingActions.offerAnswered({ uploadId: upload.id, as, password: '' }));
  }

  protected takeAll(): void {
    for (const upload of this.newer()) this.take(upload, 'version');
  }

  protected unlock(upload: Upload, password: string): void {
    this.store.dispatch(DrawingActions.offerAnswered({ uploadId: upload.id, as: 'unlock', password }));
  }

  protected dismiss(uploadId: number): void {
    this.store.dispatch(DrawingActions.uploadDismissed({ uploadId }));
  }
}
