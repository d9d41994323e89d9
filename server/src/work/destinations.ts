import type { AtDestination, LookedAtDestination } from '@folvex/contract';
import { ProblemError, type Destination } from '@folvex/core';
import {
  numberedNames,
  openDestination,
  StepFailed,
  type DestinationPort,
  type MailPort,
  type PlotterPort,
} from '@folvex/press';
import { transferLogins } from '../data/transfer-servers';
import type { Services } from './services';

type Deps = Pick<Services, 'db' | 'deliveryFolder' | 'sealer'>;

/** The port to a destination of a project. Rejects with a `ProblemError` where its transfer server cannot be signed in to. */
export async function portTo(
  { db, deliveryFolder, sealer }: Deps,
  projectId: string,
  destination: Destination,
): Promise<DestinationPort | MailPort | PlotterPort> {
  const transferServers = await transferLogins(db, projectId, destination, sealer.unseal);
  return openDestination(destination, { deliveryFolder, transferServers });
}

/**
 * Where a destination of a project is, which of some paths are taken there, and which names new files would get where both
 * are kept. Rejects with a `ProblemError` where it is not reached.
 */
export async function lookInto(
  deps: Deps,
  projectId: string,
  destination: Destination,
  paths: readonly string[],
): Promise<AtDestination> {
  const port = await portTo(deps, projectId, destination);
  try {
    if ('send' in port) return { where: port.where, paths: [] };
    if ('print' in port) return { where: port.where, paths: [], ...(await paperOf(port)) };
    const taken = await port.list(paths);
    const areKept = 'onConflict' in destination && destination.onConflict === 'both' && taken.length > 0;
    const names = areKept ? { numbered: await numberedNames(port, taken) } : {};
    return { where: port.where, paths: taken, ...names };
  } catch (error) {
    if (destination.kind === 'folder') throw error;
    const sentence = `The destination ${port.where} cannot be read: ${(error as Error).message}`;
    throw new ProblemError({ code: 'destination.away', sentence, place: {} });
  } finally {
    await port.close();
  }
}

/** What a plotter tells of its paper; nothing where it is away: it is asked again when something is printed. */
async function paperOf(port: PlotterPort): Promise<Pick<AtDestination, 'plotter'>> {
  try {
    const { media, marginMm } = await port.facts();
    return { plotter: { media, marginMm } };
  } catch (error) {
    if (error instanceof StepFailed || error instanceof ProblemError) return {};
    throw error;
  }
}

/** The same; a destination that cannot be looked at says why. */
export async function lookOrSay(...args: Parameters<typeof lookInto>): Promise<LookedAtDestination> {
  return lookInto(...args).catch((error: unknown) => {
    if (error instanceof ProblemError) return { problem: error.problem };
    throw error;
  });
}
