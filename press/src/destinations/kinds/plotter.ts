import { ProblemError, serverUse, type Plot } from '@folvex/core';
import type { DestinationContext, PlotterPort } from '../port';

/** A plotter that was set up under a name. Rejects with a `ProblemError` where it is not set up. */
export async function openDestination({ server }: Plot, { transferServers }: DestinationContext): Promise<PlotterPort> {
  const login = transferServers?.get(server);
  if (!login || serverUse(login.address) !== 'plotter') {
    const sentence = 'The plotter of this package is not set up; choose one in the package, or set it up in Settings.';
    throw new ProblemError({ code: 'transfer.absent', sentence, place: {} });
  }
  const { plotter } = await import('../ipp');
  return plotter(login);
}
