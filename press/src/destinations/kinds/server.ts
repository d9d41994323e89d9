import { legalPath, ProblemError, type Destination } from '@folvex/core';
import type { DestinationContext, DestinationPort } from '../port';
import { probeTransfer } from '../probe';
import { sftpDestination } from '../sftp';
import { partsOf } from '../transfer-login';
import { webDavDestination } from '../webdav';

/** A folder on a transfer server that was set up under a name. Throws a `ProblemError` where it is not set up. */
export function openDestination(
  { server, folder }: Extract<Destination, { kind: 'server' }>,
  { transferServers }: DestinationContext,
): DestinationPort {
  const login = transferServers?.get(server);
  if (!login) {
    const sentence =
      'The transfer server of this package is not set up; choose one in the package, or set it up in Settings.';
    throw new ProblemError({ code: 'transfer.absent', sentence, place: {} });
  }
  const open = partsOf(login.address).scheme === 'sftp' ? sftpDestination : webDavDestination;
  return {
    ...open(login, folder === '' ? '' : legalPath(folder)),
    test: async () => {
      const failed = (await probeTransfer(login)).find(({ ok }) => !ok);
      return failed && { code: 'destination.folder', sentence: failed.sentence, place: {} };
    },
  };
}
