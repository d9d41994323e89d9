import type { DeliveryInfo, PaperTaken, PlotProgress, RecipientPage } from '@folvex/contract';
import { hasArrived } from '@folvex/core';
import { countOf, momentInWords } from '../ui/words';

/** What a delivery of so many files has come to, in a sentence. */
export function deliveryInWords(delivery: DeliveryInfo, files: number): string {
  const to = delivery.location ?? 'the destination';
  const outcomes = delivery.receipts.flatMap(({ outcome }) => ('path' in outcome ? [outcome] : []));
  const arrived = outcomes.filter(hasArrived);
  const there = arrived.length === files ? countOf(files, 'file') : `${arrived.length} of ${countOf(files, 'file')}`;
  const leftOut = outcomes.filter(({ how }) => how === 'left out').length;
  const replaced = arrived.filter(({ how }) => how === 'replaced').length;
  const renamed = arrived.filter(({ older }) => older !== undefined).length;
  const details = [
    ...(arrived.length > 0 && arrived.every(({ hash }) => hash) ? ['verified by checksum'] : []),
    ...(replaced > 0 ? [`${replaced} of them replaced`] : []),
    ...(renamed > 0 ? [`${countOf(renamed, 'older file')} renamed`] : []),
    ...(leftOut > 0 ? ['the others are not for them'] : []),
  ];
  const isMail = delivery.destination.kind === 'mail';
  if (delivery.plot) return plotInWords(delivery, delivery.plot);
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
      if (leftOut > 0 && arrived.length === 0) return `Nothing sent to ${to}: none of the files is for them.`;
      return `${[`${there} ${isMail ? mailedAs(delivery) : 'at'} ${to}`, ...details].join(', ')}.`;
  }
}

/** What went wrong with it, each only once. */
export function deliveryProblems({ state, problem, receipts }: DeliveryInfo): string[] {
  const ofFiles = receipts.flatMap(({ outcome }) => ('problem' in outcome ? [outcome.problem.sentence] : []));
  return [...new Set([...(problem && state !== 'done' ? [problem.sentence] : []), ...ofFiles])];
}

function mailedAs({ page }: DeliveryInfo): string {
  return page ? 'on a page, linked in an email to' : 'in an email to';
}

/** What became of the page of a delivery, and what its recipient did there. `now`: ms since 1970. */
export function pageInWords(page: RecipientPage, now: number): string {
  const { closedAt, expiresAt, lastDay, openings, openedAt, downloaded, downloadedAt } = page;
  const ending = Date.parse(expiresAt) > now ? 'open until' : 'ended on';
  const state = closedAt === null ? `Page ${ending} ${lastDay}` : `Page closed on ${momentInWords(closedAt)}`;
  if (openedAt === null) return `${state}. Not opened yet.`;
  const opened = openings === 1 ? 'Opened once' : `Opened ${openings} times`;
  const last = openings === 1 ? momentInWords(openedAt) : `last ${momentInWords(openedAt)}`;
  if (downloadedAt === null) return `${state}. ${opened}, ${last}; nothing downloaded.`;
  return `${state}. ${opened}, ${last}; ${countOf(downloaded.length, 'file')} downloaded, last ${momentInWords(downloadedAt)}.`;
}

/** Whether the page of a delivery lets somebody in. `now`: ms since 1970. */
export function isPageOpen({ closedAt, expiresAt }: RecipientPage, now: number): boolean {
  return closedAt === null && Date.parse(expiresAt) > now;
}

function plotInWords({ state, location }: DeliveryInfo, plot: PlotProgress): string {
  const { pieces, printed, waitsFor } = plot;
  const to = location ?? 'the plotter';
  const out = `${printed} of ${countOf(pieces, 'piece')}`;
  switch (state) {
    case 'done':
      return `${countOf(pieces, 'piece')} of paper printed on ${to}: ${takenInWords(plot)}.`;
    case 'cancelled':
      return `Cancelled: ${out} printed on ${to}.`;
    case 'failed':
      return `Failed: ${out} printed on ${to}.`;
    case 'waiting':
    case 'sending':
      return `Printing on ${to}: ${out}.${waitsFor === null ? '' : ` It waits: ${waitsFor}.`}`;
  }
}

/** Paper that printing takes: `4.21 m of roll, 3.85 m², about 7.70`. */
export function takenInWords({ rollM, areaM2, cost }: PaperTaken): string {
  return [
    ...(rollM > 0 ? [`${rollM.toFixed(2)} m of roll`] : []),
    `${areaM2.toFixed(2)} m²`,
    ...(cost === null ? [] : [`about ${cost.toFixed(2)}`]),
  ].join(', ');
}
