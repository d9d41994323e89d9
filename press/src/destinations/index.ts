import type { Destination, DestinationKind } from '@folvex/core';
import * as KINDS from './kinds';
import type { DestinationContext, DestinationPort, MailPort, PlotterPort } from './port';

interface Ports {
  folder: DestinationPort;
  server: DestinationPort;
  mail: MailPort;
  plotter: PlotterPort;
}
type PortOf<Kind extends DestinationKind> = Ports[Kind];
type Open<Kind extends DestinationKind> = (
  destination: Extract<Destination, { kind: Kind }>,
  context: DestinationContext,
) => PortOf<Kind> | Promise<PortOf<Kind>>;

/** Every kind of destination; one without its file does not compile. */
const OPENERS: { readonly [Kind in DestinationKind]: { openDestination: Open<Kind> } } = KINDS;

/** The port to a destination whose rules are resolved. Rejects with a `ProblemError` where its server is not set up. */
export async function openDestination<Kind extends DestinationKind>(
  destination: Extract<Destination, { kind: Kind }>,
  context: DestinationContext,
): Promise<PortOf<Kind>> {
  // One opener takes one kind: that it is this one is more than the compiler follows.
  const { openDestination: open } = OPENERS[destination.kind] as unknown as { openDestination: Open<Kind> };
  return open(destination, context);
}
