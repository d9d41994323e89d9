import { legalPath, type Destination } from '@folvex/core';
import type { DestinationContext, DestinationPort } from '../port';
import { sftpDestination } from '../sftp';
import { partsOf } from '../transfer-login';
import { webDavDestination } from '../webdav';

/** A folder on a transfer server that was set up under a name. */
export function openDestination(
  { server, folder }: Extract<Destination, { kind: 'server' }>,
  { transferServers }: DestinationContext,
): DestinationPort {
  const login = transferServers?.get(server);
  if (!login) return absent();
  const open = partsOf(login.address).scheme === 'sftp' ? sftpDestination : webDavDestination;
  return open(login, folder === '' ? '' : legalPath(folder));
}

/** What stands in for a server that is not set up: nothing reaches it, and the reason is said. */
function absent(): DestinationPort {
  const sentence =
    'The transfer server of this package is not set up; choose one in the package, or set it up in Settings.';
  const refuse = (): Promise<never> => Promise.reject(new Error(sentence));
  return {
    where: '',
    test: () => Promise.resolve({ code: 'destination.folder', sentence, place: {} }),
    list: () => Promise.resolve([]),
    hashOf: refuse,
    put: refuse,
    close: () => Promise.resolve(),
  };
}
