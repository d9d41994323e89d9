import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatDialog } from '@angular/material/dialog';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import type { DrawingInfo } from '@folvex/contract';
import type { LengthUnit } from '@folvex/core';
import { askName } from '../../forms/ask-name';
import { ChoiceField } from '../../forms/choice-field';
import { ArrivalActions } from '../../state/arrivals/arrivals.actions';
import { selectWaitingArrivals } from '../../state/arrivals/arrivals.reducer';
import { DrawingActions } from '../../state/drawings/drawings.actions';
import { drawingsFeature } from '../../state/drawings/drawings.reducer';
import {
  selectAllDrawings,
  selectLayoutsTaken,
  selectRemovedDrawings,
  selectUploadEntities,
  selectUses,
} from '../../state/drawings/drawings.selectors';
import { projectFeature } from '../../state/project/project.reducer';
import { confirm, type Question } from '../../ui/confirm';
import { DropFiles } from '../../ui/drop-files';
import { EmptyState } from '../../ui/empty-state';
import { RemovedList } from '../../ui/removed-list';
import { countOf } from '../../ui/words';
import { ChangesPanel } from './changes-panel';
import { DrawingCard } from './drawing-card';
import { DrawingTable } from './drawing-table';
import { FramesPanel } from './frames-panel';
import { InboxPanel } from './inbox-panel';
import { Incoming } from './incoming';
import { NewSheetPanel } from './new-sheet-panel';
import { withOpenWarnings } from './open-warnings';
import { sorted, SORTINGS, type Sorting } from './sorting';

type Panel = 'sheet' | 'frames' | 'changes';

/** The drawings of the project: what is in each, and how a new one comes in. */
@Component({
  selector: 'fx-gather',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChangesPanel,
    ChoiceField,
    DrawingCard,
    DrawingTable,
    DropFiles,
    EmptyState,
    FramesPanel,
    InboxPanel,
    Incoming,
    MatButton,
    MatButtonToggle,
    MatButtonToggleGroup,
    MatIcon,
    NewSheetPanel,
    RemovedList,
  ],
  templateUrl: './gather.html',
  styleUrl: './gather.scss',
})
export class Gather {
  private readonly store = inject(Store);
  private readonly dialog = inject(MatDialog);
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  protected readonly uses = this.store.selectSignal(selectUses);
  private readonly all = this.store.selectSignal(selectAllDrawings);
  protected readonly sortings = SORTINGS;
  protected readonly sorting = signal<Sorting>('arrival');
  protected readonly way = signal<'cards' | 'table'>('cards');
  protected readonly present = computed(() => new Set(this.all().map(({ name }) => name.toLowerCase())));
  protected readonly drawings = computed(() => {
    const drawings = this.all().map((drawing) => withOpenWarnings(drawing, this.present()));
    return sorted(drawings, this.sorting(), this.uses());
  });
  protected readonly removed = this.store.selectSignal(selectRemovedDrawings);
  private readonly uploads = this.store.selectSignal(selectUploadEntities);
  private readonly waiting = this.store.selectSignal(selectWaitingArrivals);
  protected readonly layoutsTaken = this.store.selectSignal(selectLayoutsTaken);
  protected readonly takingLayouts = this.store.selectSignal(drawingsFeature.selectTakingLayouts);
  protected readonly mergingComments = this.store.selectSignal(drawingsFeature.selectMergingComments);
  /** Id of the drawing that sheets are being made from, and in which way. */
  protected readonly chosen = signal<string | null>(null);
  protected readonly panel = signal<Panel>('sheet');
  /** The upload or arrival whose changes are looked at. */
  private readonly offer = signal<{ upload: number } | { arrival: string } | null>(null);
  /** SHA-256 of its content, and how it is taken; null once it is decided about. */
  protected readonly offered = computed(() => {
    const offer = this.offer();
    if (!offer) return null;
    if ('arrival' in offer) {
      const hash = this.waiting().find(({ id }) => id === offer.arrival)?.offered?.hash;
      const answer = { as: 'version' as const };
      return hash ? { hash, take: ArrivalActions.arrivalDecided({ id: offer.arrival, answer }) } : null;
    }
    const upload = this.uploads()[offer.upload];
    const take = DrawingActions.offerAnswered({ uploadId: offer.upload, as: 'version', password: '' });
    return upload?.state === 'newer' && upload.offered ? { hash: upload.offered.hash, take } : null;
  });
  protected readonly chosenDrawing = computed(() => this.drawings().find(({ id }) => id === this.chosen()) ?? null);

  protected add(files: File[], newerOf?: string): void {
    this.store.dispatch(DrawingActions.filesDropped({ files, ...(newerOf !== undefined && { newerOf }) }));
  }

  protected picked(input: HTMLInputElement): void {
    this.add([...(input.files ?? [])]);
    // The same file may be picked again.
    input.value = '';
  }

  protected open(drawingId: string, panel: Panel): void {
    this.offer.set(null);
    this.chosen.set(drawingId);
    this.panel.set(panel);
  }

  protected showUpload(upload: number): void {
    this.open(this.uploads()[upload]?.drawing ?? '', 'changes');
    this.offer.set({ upload });
  }

  protected showArrival(arrival: string): void {
    this.open(this.waiting().find(({ id }) => id === arrival)?.drawing ?? '', 'changes');
    this.offer.set({ arrival });
  }

  protected takeOffer(): void {
    const take = this.offered()?.take;
    if (!take) return;
    this.store.dispatch(take);
    this.chosen.set(null);
  }

  protected takeLayouts(drawingId: string): void {
    this.store.dispatch(DrawingActions.layoutSheetsAskedFor({ drawingId }));
  }

  protected merge(drawingId: string): void {
    this.store.dispatch(DrawingActions.commentsMergeAskedFor({ drawingId }));
  }

  protected rename({ id, name }: DrawingInfo): void {
    askName(this.dialog, { title: `Rename ${name}`, name }).subscribe((wanted) =>
      this.store.dispatch(DrawingActions.drawingStated({ drawingId: id, change: { name: wanted } })),
    );
  }

  protected remove({ id, name }: DrawingInfo): void {
    const uses = this.uses()[id] ?? 0;
    const question: Question =
      uses > 0
        ? {
            title: `${name} cannot be removed yet`,
            lines: [`${countOf(uses, 'sheet')} ${uses === 1 ? 'shows' : 'show'} it. Remove its views there first.`],
          }
        : {
            title: `Remove ${name}?`,
            lines: ['No sheet shows it.', 'You can restore it later at the bottom of this page.'],
            action: 'Remove drawing',
          };
    confirm(this.dialog, question).subscribe((yes) => {
      if (yes) this.store.dispatch(DrawingActions.removalAskedFor({ drawingId: id, removed: true }));
    });
  }

  protected restore(drawingId: string): void {
    this.store.dispatch(DrawingActions.removalAskedFor({ drawingId, removed: false }));
  }

  protected stateUnit(drawingId: string, unit: LengthUnit): void {
    this.store.dispatch(DrawingActions.drawingStated({ drawingId, change: { unit } }));
  }
}
