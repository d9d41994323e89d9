import { legalPath, ProblemError, serverUse, type Destination } from '@folvex/core';
import type { DestinationContext, DestinationPort, TransferPort } from '../port';
import { probeTransfer } from '../probe';
import { partsOf, type FileScheme, type TransferLogin } from '../transfer-login';

type Open = (login: TransferLogin, below: string) => TransferPort;

/** Each is loaded when it is used: the clients together would take a quarter of a second of every start. */
const openFtp = async (): Promise<Open> => (await import('../ftp')).ftpDestination;
const openWebDav = async (): Promise<Open> => (await import('../webdav')).webDavDestination;
const openS3 = async (): Promise<Open> => (await import('../s3')).s3Destination;
const OPENERS: Readonly<Record<FileScheme, () => Promise<Open>>> = {
  sftp: async () => (await import('../sftp')).sftpDestination,
  ...{ ftp: openFtp, ftps: openFtp },
  ...{ https: openWebDav, http: openWebDav },
  ...{ s3: openS3, 's3+http': openS3 },
};

/** The port to a folder below that of a transfer server; undefined where the server is for something else. */
export async function openTransfer(login: TransferLogin, below: string): Promise<TransferPort | undefined> {
  if (serverUse(login.address) !== 'server') return undefined;
  return (await OPENERS[partsOf(login.address).scheme as FileScheme]())(login, below);
}

/** A folder on a transfer server that was set up under a name. Rejects with a `ProblemError` where it is not set up. */
export async function openDestination(
  { server, folder }: Extract<Destination, { kind: 'server' }>,
  { transferServers }: DestinationContext,
): Promise<DestinationPort> {
  const login = transferServers?.get(server);
  const port = login && (await openTransfer(login, folder === '' ? '' : legalPath(folder)));
  if (!port) {
    const sentence =
      'The transfer server of this package is not set up; choose one in the package, or set it up in Settings.';
    throw new ProblemError({ code: 'transfer.absent', sentence, place: {} });
  }
  return {
    ...port,
    test: async () => {
      const failed = (await probeTransfer(login)).find(({ ok }) => !ok);
      return failed && { code: 'destination.folder', sentence: failed.sentence, place: {} };
    },
  };
}
