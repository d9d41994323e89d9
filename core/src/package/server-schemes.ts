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
