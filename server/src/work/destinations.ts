import { ProblemError, type Destination } from '@folvex/core';
import { openDestination, type DestinationPort } from '@folvex/press';
import { transferLogins } from '../data/transfer-servers';
import type { Services } from './services';

/** Does something with a destination of a project, and ends its connection. Rejects with a problem where it is not reached. */
export async function withDestination<T>(
  { db, deliveryFolder, sealer }: Pick<Services, 'db' | 'deliveryFolder' | 'sealer'>,
  projectId: string,
  destination: Destination,
  use: (port: DestinationPort) => Promise<T>,
): Promise<T> {
  const transferServers = await transferLogins(db, projectId, destination, sealer.unseal);
  const port = openDestination(destination, { deliveryFolder, transferServers });
  try {
    return await use(port);
  } catch (error) {
    if (destination.kind === 'folder') throw error;
    const sentence = `The destination ${port.where} cannot be read: ${(error as Error).message}`;
    throw new ProblemError({ code: 'destination.away', sentence, place: {} });
  } finally {
    await port.close();
  }
}
