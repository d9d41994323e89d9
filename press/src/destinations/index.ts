import type { Destination, DestinationKind } from '@folvex/core';
import * as KINDS from './kinds';
import type { DestinationContext, DestinationPort } from './port';

type Open<Kind extends DestinationKind> = (
  destination: Extract<Destination, { kind: Kind }>,
  context: DestinationContext,
) => DestinationPort;

/** Every kind of destination; one without its file does not compile. */
const OPENERS: { readonly [Kind in DestinationKind]: { openDestination: Open<Kind> } } = KINDS;

/** The port to a destination whose rules are resolved. */
export function openDestination(destination: Destination, context: DestinationContext): DestinationPort {
  // One opener takes one kind: that it is this one is more than the compiler follows.
  const { openDestination: open } = OPENERS[destination.kind] as { openDestination: Open<DestinationKind> };
  return open(destination, context);
}
