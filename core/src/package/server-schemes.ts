import type { DestinationKind } from './destination-kinds';

/** How addresses of servers begin, by the kind of destination that they are for; those with TLS first. */
export const SERVER_SCHEMES = {
  server: ['sftp', 'ftps', 'https', 's3', 'ftp', 'http', 's3+http'],
  mail: ['smtps', 'smtp'],
  plotter: ['ipps', 'ipp'],
} as const satisfies Partial<Record<DestinationKind, readonly string[]>>;

/** What a server is for. */
export type ServerUse = keyof typeof SERVER_SCHEMES;

/** The kind of destination that a server with an address is for; `server` where the address is none. */
export function serverUse(address: string): ServerUse {
  const scheme = address.slice(0, address.indexOf(':'));
  const uses = Object.keys(SERVER_SCHEMES) as ServerUse[];
  return uses.find((use) => (SERVER_SCHEMES[use] as readonly string[]).includes(scheme)) ?? 'server';
}

/** Who makes the connections for files of an FTP server (RFC 959): we do unless `ftp://host/folder?mode=active` says otherwise. */
export const FTP_MODE = { key: 'mode', active: 'active' } as const;
/**
 * The region of a bucket: `s3://host/bucket?region=eu-central-1`. Compatible services without regions of their own accept
 * the usual one (common practice).
 */
export const S3_REGION = { key: 'region', usual: 'us-east-1' } as const;

/** What an address states after its path under a key; undefined where it states nothing. */
export function addressOption(address: string, key: string): string | undefined {
  const [, query = ''] = address.split('?', 2);
  return new URLSearchParams(query).get(key) ?? undefined;
}

/** An address that states something under a key; undefined: nothing. */
export function withAddressOption(address: string, key: string, value: string | undefined): string {
  const [path = '', query = ''] = address.split('?', 2);
  const options = new URLSearchParams(query);
  if (value === undefined) options.delete(key);
  else options.set(key, value);
  return options.size > 0 ? `${path}?${options.toString()}` : path;
}
