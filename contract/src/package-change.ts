import { sameValue, type SheetPackage } from '@folvex/core';
import type { PackageChange } from './payloads';

/** Parts of a package that may be taken away. */
const PARTS = ['tiles', 'extraFormats', 'destinations', 'publishes'] as const;

/** The fields of a package that decide where things are sent: only leads change them. */
export const SENDING_FIELDS = [
  'destinations',
  'tellTo',
  'tellFrom',
  'tellServer',
] as const satisfies (keyof PackageChange)[];

/** A package with some of it changed; null takes a part away. */
export function packageWith(pack: SheetPackage, { was: _, ...change }: PackageChange): SheetPackage {
  const changed = { ...pack, ...change };
  for (const part of PARTS) if (changed[part] === null) delete changed[part];
  return changed as SheetPackage;
}

/** The fields of a package that are otherwise than they were; without any where it is the same. */
export function packageDifference(before: SheetPackage, after: SheetPackage): Omit<PackageChange, 'was'> {
  const keys = Object.keys({ ...before, ...after }) as (keyof SheetPackage)[];
  const changed = keys.filter((key) => key !== 'id' && !sameValue(before[key], after[key]));
  return Object.fromEntries(changed.map((key) => [key, after[key] ?? null]));
}

/** The same as a change that is refused where somebody else changed one of those fields meanwhile. */
export function packageChange(before: SheetPackage, after: SheetPackage): PackageChange {
  const change = packageDifference(before, after);
  const was = Object.keys(change).map((key) => [key, before[key as keyof SheetPackage] ?? null] as const);
  return { ...change, was: Object.fromEntries(was) };
}
