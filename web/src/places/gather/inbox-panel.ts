import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTableModule } from '@angular/material/table';
import { Store } from '@ngrx/store';
import { MAX_ARRIVALS, type ArrivalAnswer, type ArrivalInfo } from '@folvex/contract';
import { ArrivalActions } from '../../state/arrivals/arrivals.actions';
import { arrivalsFeature, selectWaitingArrivals } from '../../state/arrivals/arrivals.reducer';
import { selectDrawingEntities, selectUses } from '../../state/drawings/drawings.selectors';
import { projectFeature } from '../../state/project/project.reducer';
import { selectIsReader } from '../../state/session/session.reducer';
import { Fold } from '../../ui/fold';
import { countOf, momentInWords } from '../../ui/words';
import { OfferLine } from './offer-line';

/** The inboxes of the project: files to decide on, inboxes that cannot be read, and everything that arrived. */
@Component({
  selector: 'fx-inbox-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Fold, MatButton, MatIcon, MatTableModule, OfferLine],
  templateUrl: './inbox-panel.html',
  styleUrls: ['./incoming.scss', './inbox-panel.scss'],
})
export class InboxPanel {
  /** Id of the arrival whose changes are asked for. */
  readonly changesWanted = output<string>();

  private readonly store = inject(Store);
  private readonly inboxes = this.store.selectSignal(arrivalsFeature.selectInboxes);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  private readonly drawings = this.store.selectSignal(selectDrawingEntities);
  private readonly uses = this.store.selectSignal(selectUses);
  private readonly deciding = this.store.selectSignal(arrivalsFeature.selectDeciding);
  protected readonly isReader = this.store.selectSignal(selectIsReader);
  protected readonly all = this.store.selectSignal(arrivalsFeature.selectAllArrivals);
  protected readonly waiting = this.store.selectSignal(selectWaitingArrivals);
  protected readonly versions = computed(() => this.waiting().filter((one) => this.olderOf(one) && !one.problem));
  /** Inboxes that cannot be read, of those that are set up. */
  protected readonly faults = computed(() =>
    (this.facts()?.inboxes ?? []).flatMap(({ id, name }) => {
      const problem = this.inboxes().find((one) => one.id === id)?.problem;
      return problem ? [{ id, name, sentence: problem.sentence }] : [];
    }),
  );
  protected readonly caption = computed(() => {
    const { length } = this.all();
    // The server lists the latest ones, and older ones that still wait.
    const files = length < MAX_ARRIVALS ? countOf(length, 'file') : `the latest ${countOf(length, 'file')}`;
    return `Inboxes: ${files}, the last on ${momentInWords(this.all()[0]!.at)}`;
  });
  protected readonly columns = ['at', 'inbox', 'path', 'state'];
  protected readonly moment = momentInWords;

  protected olderOf({ drawing }: ArrivalInfo) {
    return drawing === null ? undefined : this.drawings()[drawing];
  }

  protected usesOf({ drawing }: ArrivalInfo): number {
    return this.uses()[drawing ?? ''] ?? 0;
  }

  protected isBusy({ id }: ArrivalInfo): boolean {
    return this.deciding().includes(id);
  }

  protected from({ inbox, at }: ArrivalInfo): string {
    return `from ${inbox}, ${momentInWords(at)}`;
  }

  protected statusOf(arrival: ArrivalInfo): string {
    const by = arrival.by ? ` by ${arrival.by}` : '';
    const drawing = this.olderOf(arrival)?.name ?? 'a drawing';
    switch (arrival.state) {
      case 'arriving':
        return 'still being written';
      case 'waiting':
        return 'waiting for a decision';
      case 'taken':
        return `taken${by} as version ${arrival.version} of ${drawing}`;
      case 'known':
        return `already here, as version ${arrival.version} of ${drawing}`;
      case 'declined':
        return `declined${by}`;
      case 'replaced':
        return 'replaced by a newer file before a decision';
      case 'refused':
        return arrival.problem?.sentence ?? 'cannot be read';
    }
  }

  protected decide({ id }: ArrivalInfo, as: ArrivalAnswer['as'], password?: string): void {
    const answer: ArrivalAnswer = { as, ...(password !== undefined && { password }) };
    this.store.dispatch(ArrivalActions.arrivalDecided({ id, answer }));
  }

  protected takeAll(): void {
    for (const arrival of this.versions()) this.decide(arrival, 'version');
  }
}
