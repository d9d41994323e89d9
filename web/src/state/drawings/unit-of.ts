import type { DrawingInfo } from '@folvex/contract';
import type { LengthUnit } from '@folvex/core';

/** The unit a drawing is taken to be in. */
export function unitOf({ unit, ownUnit }: Pick<DrawingInfo, 'unit' | 'ownUnit'>): LengthUnit | undefined {
  return (unit ?? ownUnit ?? undefined) as LengthUnit | undefined;
}
