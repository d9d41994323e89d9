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

/** The region of a bucket whose address states none: services without regions accept it (common practice). */
export const DEFAULT_REGION = 'us-east-1';

/** The region that the address of a bucket states, `s3://host/bucket?region=eu-central-1`; undefined: none. */
export function bucketRegion(address: string): string | undefined {
  return addressOption(address, 'region');
}

/** The address of a bucket in a region; undefined: in the default one. */
export function withBucketRegion(address: string, region: string | undefined): string {
  return withAddressOption(address, 'region', region);
}

/** True where an FTP server opens the data connections (RFC 959): `ftp://host/folder?mode=active`. Otherwise the client does. */
export function isActiveFtp(address: string): boolean {
  return addressOption(address, 'mode') === 'active';
}

/** The address of an FTP server that opens the data connections, or of one that does not. */
export function withFtpMode(address: string, isActive: boolean): string {
  return withAddressOption(address, 'mode', isActive ? 'active' : undefined);
}

function addressOption(address: string, key: string): string | undefined {
  const [, query = ''] = address.split('?', 2);
  return new URLSearchParams(query).get(key) ?? undefined;
}

function withAddressOption(address: string, key: string, value: string | undefined): string {
  const [path = '', query = ''] = address.split('?', 2);
  const options = new URLSearchParams(query);
  if (value === undefined) options.delete(key);
  else options.set(key, value);
  return options.size > 0 ? `${path}?${options.toString()}` : path;
}
