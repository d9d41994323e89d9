import type { LayoutFields } from '@folvex/core';

/** What the title block of a layout says, as the sheet made from it will have it; empty where it says nothing. */
export function titleBlockInWords({ number, title, revision, date }: LayoutFields): string {
  const named = [number, title].filter(Boolean).join(' ');
  const revised = revision && `revision ${revision} ${date ? `of ${date}` : '(no readable date, so today’s)'}`;
  return [named, revised].filter(Boolean).join(', ');
}
