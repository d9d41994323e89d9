import type { PackageChange } from '@folvex/contract';
import { sameValue, type SheetPackage } from '@folvex/core';
import { conflictSentence } from '../../data/package-edits';
import { Refused } from '../../errors';

/** What people call the fields of a package. */
const WORDS: Readonly<Partial<Record<keyof SheetPackage, string>>> = {
  name: 'name',
  order: 'order',
  bundling: 'bundling',
  recipe: 'recipe',
  names: 'names',
  blanks: 'names',
  purpose: 'purpose',
  date: 'date',
  notes: 'notes',
  pages: 'page settings',
  extras: 'added pages',
  members: 'rule',
  after: 'order',
  stamps: 'stamps',
  accepted: 'findings',
  tiles: 'tiles',
  extraFormats: 'formats',
  publishes: 'schedule',
  publishAt: 'schedule',
  pausedUntil: 'schedule',
  tellTo: 'schedule',
  tellFrom: 'schedule',
  tellServer: 'schedule',
};

/** What of a package is otherwise, in words. */
export function wordsOf(before: SheetPackage, after: SheetPackage): string {
  const keys = Object.keys({ ...before, ...after }) as (keyof SheetPackage)[];
  const changed = keys.filter((key) => !sameValue(before[key], after[key]));
  return [...new Set(changed.map((key) => WORDS[key] ?? key))].join(' and ') || 'settings';
}

/** Refuses a change of fields that are neither as the person saw them nor as they are to be. */
export function refuseChanged(pack: SheetPackage, { was = {}, ...change }: PackageChange): void {
  const differs = Object.entries(was).some(([field, seen]) => {
    const now = pack[field as keyof SheetPackage];
    return !sameValue(now, seen) && !sameValue(now, change[field as keyof typeof change]);
  });
  if (differs) throw new Refused(409, 'package.changed', conflictSentence(pack));
}
