import { legalPath, ProblemError, type Destination } from '@folvex/core';
import type { DestinationContext, DestinationPort, TransferPort } from '../port';
import { probeTransfer } from '../probe';
import { ftpDestination } from '../ftp';
import { s3Destination } from '../s3';
import { sftpDestination } from '../sftp';
import { partsOf, type Scheme, type TransferLogin } from '../transfer-login';
import { webDavDestination } from '../webdav';

const OPENERS: Readonly<Record<Scheme, (login: TransferLogin, below: string) => TransferPort>> = {
  sftp: sftpDestination,
  ...{ ftp: ftpDestination, ftps: ftpDestination },
  ...{ https: webDavDestination, http: webDavDestination },
  ...{ s3: s3Destination, 's3+http': s3Destination },
};

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
  const open = OPENERS[partsOf(login.address).scheme];
  return {
    ...open(login, folder === '' ? '' : legalPath(folder)),
    test: async () => {
      const failed = (await probeTransfer(login)).find(({ ok }) => !ok);
      return failed && { code: 'destination.folder', sentence: failed.sentence, place: {} };
    },
  };
}
