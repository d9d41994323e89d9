import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { newCertificate, type Certificate } from './certificate';
import { startDavServer } from './dav-server';
import { startFtpServer } from './ftp-server';
import { S3_ACCOUNT, startS3Server } from './s3-server';
import { newHostKey, startSftpServer } from './sftp-server';
import { SharedFolder, type Account, type ShareOptions, type StandInServer } from './shared-folder';
import { startTransferPage, type ShownShare } from './transfer-page';

/** Ports: the demo of Folvex has destinations at them. */
export const TRANSFER_PORTS = { page: 4794, sftp: 4795, ftp: 4796, ftps: 4797, dav: 4798, s3: 4799 };
export const TRANSFER_ACCOUNT: Account = { user: 'folvex', password: 'tern quay' };

/** One transfer server of each kind, whose files, host key and certificate stay in a folder of this machine. */
export async function startTransferServers(
  folder: string,
  ports: Readonly<Record<keyof typeof TRANSFER_PORTS, number>> = TRANSFER_PORTS,
): Promise<{ shares: ShownShare[]; page: string; stop(): Promise<void> }> {
  const root = resolve(folder);
  mkdirSync(root, { recursive: true });
  const hostKey = await kept(join(root, 'host.key'), () => Promise.resolve(newHostKey()));
  const certificate = JSON.parse(
    await kept(join(root, 'certificate.json'), async () => JSON.stringify(await newCertificate())),
  ) as Certificate;
  const share = async (
    name: string,
    kind: Exclude<keyof typeof TRANSFER_PORTS, 'page'>,
    start: (options: ShareOptions) => Promise<StandInServer>,
    account = TRANSFER_ACCOUNT,
  ): Promise<ShownShare> => {
    const own = new SharedFolder(join(root, kind, 'plans'));
    mkdirSync(own.root, { recursive: true });
    return { name, account, folder: own, server: await start({ folder: own, account, port: ports[kind] }) };
  };
  const shares = [
    await share('SFTP server', 'sftp', (options) => startSftpServer({ ...options, hostKey })),
    await share('FTP server', 'ftp', startFtpServer),
    await share('FTP server with TLS', 'ftps', (options) => startFtpServer({ ...options, certificate })),
    await share('WebDAV server', 'dav', startDavServer),
    await share('S3 bucket', 's3', startS3Server, S3_ACCOUNT),
  ];
  const page = await startTransferPage(shares, ports.page);
  return {
    shares,
    page: page.address,
    stop: async () => {
      await Promise.all([page.stop(), ...shares.map(({ server }) => server.stop())]);
    },
  };
}

/** What a file holds; it is made once. */
async function kept(file: string, make: () => Promise<string>): Promise<string> {
  if (!existsSync(file)) writeFileSync(file, await make(), { mode: 0o600 });
  return readFileSync(file, 'utf8');
}
