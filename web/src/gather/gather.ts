import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import { GatherActions } from '../state/project.actions';
import { projectFeature } from '../state/project.reducer';
import { selectAllDrawings, selectAllUploads, selectLayoutsTaken, selectUses } from '../state/project.selectors';
import { DropFiles } from '../ui/drop-files';
import { EmptyState } from '../ui/empty-state';
import { DrawingCard } from './drawing-card';
import { FramesPanel } from './frames-panel';
import { NewSheetPanel } from './new-sheet-panel';

/** The drawings of the project: what is in each, and how a new one comes in. */
@Component({
  selector: 'fx-gather',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    DrawingCard,
    DropFiles,
    EmptyState,
    FramesPanel,
    FramesPanel,
    MatButton,
    MatIcon,
    MatProgressBar,
    NewSheetPanel,
  ],
  templateUrl: './gather.html',
  styleUrl: './gather.scss',
})
export class Gather {
  private readonly store = inject(Store);
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  protected readonly drawings = this.store.selectSignal(selectAllDrawings);
  protected readonly uploads = this.store.selectSignal(selectAllUploads);
  protected readonly layoutsTaken = this.store.selectSignal(selectLayoutsTaken);
  protected readonly uses = this.store.selectSignal(selectUses);
  /** Id of the drawing that sheets are being made from, and in which way. */
  protected readonly chosen = signal<string | null>(null);
  protected readonly panel = signal<'sheet' | 'frames'>('sheet');
  protected readonly chosenDrawing = computed(() => this.drawings().find(({ id }) => id === this.chosen()) ?? null);

  protected add(files: File[]): void {
    this.store.dispatch(GatherActions.filesDropped({ files }));
  }

  protected picked(input: HTMLInputElement): void {
    this.add([...(input.files ?? [])]);
    // The same file may be picked again.
    input.value = '';
  }

  protected open(drawingId: string, panel: 'sheet' | 'frames'): void {
    this.chosen.set(drawingId);
    this.panel.set(panel);
  }

  protected takeLayouts(drawingId: string): void {
    this.store.dispatch(GatherActions.layoutSheetsAskedFor({ drawingId }));
  }

  protected stateUnit(drawingId: string, unit: string): void {
    this.store.dispatch(GatherActions.unitStated({ drawingId, unit }));
  }

  protected dismiss(uploadId: number): void {
    this.store.dispatch(GatherActions.refusedUploadDismissed({ uploadId }));
  }
}
