import { randomUUID } from 'node:crypto';
import { separateDestinations, type Destination } from '@folvex/core';
import type { Transaction } from '../../data/database';
import { insertDelivery } from '../../data/deliveries';
import type { Queue } from '../queue/queue';

/** Has a run sent to a destination once the transaction is committed; an email goes to each recipient separately. */
export async function addDeliveries(
  tx: Transaction,
  queue: Queue,
  { runId, startedBy, destination }: { runId: string; startedBy: string | null; destination: Destination },
): Promise<void> {
  for (const one of separateDestinations(destination)) {
    const delivery = { id: randomUUID(), runId, startedBy, destination: one };
    await insertDelivery(tx.db, delivery);
    await queue.addDelivery(tx, { id: delivery.id, renewals: 0 });
  }
}
