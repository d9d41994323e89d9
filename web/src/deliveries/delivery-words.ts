import type { DeliveryInfo } from '@folvex/contract';
import { countOf, momentInWords } from '../ui/words';

/** What a delivery of so many files has come to, in a sentence. */
export function deliveryInWords(delivery: DeliveryInfo, files: number): string {
  const to = delivery.location ?? 'the destination';
  const arrived = delivery.receipts.flatMap(({ outcome }) => ('path' in outcome ? [outcome] : []));
  const there = arrived.length === files ? countOf(files, 'file') : `${arrived.length} of ${countOf(files, 'file')}`;
  const replaced = arrived.filter(({ how }) => how === 'replaced').length;
  const renamed = arrived.filter(({ older }) => older !== undefined).length;
  const details = [
    ...(replaced > 0 ? [`${replaced} of them replaced`] : []),
    ...(renamed > 0 ? [`${countOf(renamed, 'older file')} renamed`] : []),
  ];
  const isMail = delivery.destination.kind === 'mail';
  switch (delivery.state) {
    case 'waiting':
      if (delivery.nextAttemptAt === null) return `Waiting to be sent to ${to}.`;
      return isMail
        ? `The email to ${to} could not be sent yet; the next attempt is at ${momentInWords(delivery.nextAttemptAt)}.`
        : `${to} cannot be reached; the next attempt is at ${momentInWords(delivery.nextAttemptAt)}. Sent so far: ${there}.`;
    case 'sending':
      return `Sending to ${to}: ${there}.`;
    case 'cancelled':
      return `Cancelled: ${there} sent to ${to}.`;
    case 'failed':
      return `Failed: ${there} sent to ${[to, ...details].join(', ')}.`;
    case 'done':
      return `${[`${there} ${isMail ? 'in an email to' : 'at'} ${to}`, ...details].join(', ')}.`;
  }
}

/** What went wrong with it, each only once. */
export function deliveryProblems({ state, problem, receipts }: DeliveryInfo): string[] {
  const ofFiles = receipts.flatMap(({ outcome }) => ('problem' in outcome ? [outcome.problem.sentence] : []));
  return [...new Set([...(problem && state !== 'done' ? [problem.sentence] : []), ...ofFiles])];
}
