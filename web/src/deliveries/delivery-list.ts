import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import { isDeliveryOver, type DeliveryInfo, type RunInfo } from '@folvex/contract';
import { RunActions } from '../state/runs/runs.actions';
import { selectIsLead } from '../state/session/session.reducer';
import { deliveryInWords, deliveryProblems, isPageOpen, pageInWords } from './delivery-words';
import { pageShower } from './recipient-page';

/** Where the files of a run were sent, and what came of that. */
@Component({
  selector: 'fx-delivery-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatProgressBar],
  templateUrl: './delivery-list.html',
  styles: `
    :host,
    .delivery {
      display: grid;
      gap: var(--fx-gap-1);
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      justify-content: space-between;
      gap: var(--fx-gap-1) var(--fx-gap-2);
    }
    p {
      margin: 0;
      overflow-wrap: anywhere;
    }
    .line p {
      flex: 1 1 200px;
    }
    button {
      flex: none;
    }
    .problem {
      display: flex;
      gap: var(--fx-gap-1);
    }
    mat-icon {
      flex: none;
      color: var(--fx-signal);
    }
  `,
})
export class DeliveryList {
  private readonly store = inject(Store);
  protected readonly isLead = this.store.selectSignal(selectIsLead);
  private readonly show = pageShower();
  readonly run = input.required<RunInfo>();
  protected readonly deliveries = computed(() => {
    const { deliveries, files } = this.run();
    return deliveries.map((delivery) => ({
      id: delivery.id,
      words: deliveryInWords(delivery, files.length),
      problems: deliveryProblems(delivery),
      share: shareOf(delivery, files.length),
      page: delivery.page && delivery.receipts.length > 0 ? pageInWords(delivery.page, Date.now()) : '',
      isPageOpen: delivery.page !== null && isPageOpen(delivery.page, Date.now()),
      // A plotter has all of it, and is looked at from time to time.
      isSending: delivery.state === 'sending' || (delivery.state === 'waiting' && delivery.plot !== null),
      isOver: isDeliveryOver(delivery),
      isUnfinished: delivery.state !== 'done',
    }));
  });

  protected cancel(deliveryId: string): void {
    this.store.dispatch(RunActions.deliveryCancelAskedFor({ runId: this.run().id, deliveryId }));
  }

  protected showPage(deliveryId: string): void {
    this.show({ run: this.run(), delivery: this.run().deliveries.find(({ id }) => id === deliveryId)! });
  }

  protected sendAgain(deliveryId: string): void {
    this.store.dispatch(RunActions.deliveryRepeatAskedFor({ runId: this.run().id, deliveryId }));
  }
}

/** How much of a delivery of so many files is done, per cent. */
function shareOf({ plot, receipts }: DeliveryInfo, files: number): number {
  const [done, all] = plot ? [plot.printed, plot.pieces] : [receipts.length, files];
  return (100 * done) / Math.max(1, all);
}
