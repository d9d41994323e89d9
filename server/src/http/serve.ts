import { createServer, type Server } from 'node:http';
import type { Services } from '../work/services';
import { createApp } from './app';
import { joinLink } from './members';

/** Where and to whom a server answers. */
export interface Address {
  host: string;
  port: number;
  /** Host names besides loopback ones. */
  names: ReadonlySet<string>;
  webFolder?: string | undefined;
}

export interface Serving {
  /** Answers to its whole address from now on. */
  open(): void;
  close(): void;
}

/** Longer than clients and proxies keep idle connections: they must not meet one that is just being closed. */
const KEEP_ALIVE_MS = 65_000;
const LOOPBACK = '127.0.0.1';

/**
 * Begins to answer. With the secret of an owner's link, which nobody has opened yet, only this machine is answered, until
 * `open` is called. `whenListening` is called each time it listens, `leave` with a sentence where it cannot.
 */
export function serve(
  services: Services,
  { host, port, names, webFolder }: Address,
  ownerSecret: string | undefined,
  { whenListening, leave }: { whenListening: () => void; leave: (sentence: string) => void },
): Serving {
  let server: Server | undefined;
  const listen = (at: string, answered: ReadonlySet<string>): void => {
    server = createServer(createApp(services, webFolder, answered));
    server.on('error', (error: NodeJS.ErrnoException) => leave(cannotListen(error, at, port)));
    server.keepAliveTimeout = KEEP_ALIVE_MS;
    server.listen(port, at, whenListening);
  };
  let isOpen = false;
  const open = (): void => {
    if (isOpen) return;
    isOpen = true;
    server?.close();
    server?.closeIdleConnections();
    listen(host, names);
  };
  if (ownerSecret === undefined) open();
  else {
    const link = joinLink(`http://${LOOPBACK}:${port}`, ownerSecret);
    console.error(
      `This installation has no owner yet, so it answers only to this machine. Open ${link} on it within 24 hours to become the owner.`,
    );
    listen(LOOPBACK, new Set());
  }
  const close = (): void => {
    server?.closeAllConnections();
    server?.close();
  };
  return { open, close };
}

function cannotListen({ code }: NodeJS.ErrnoException, host: string, port: number): string {
  if (code !== 'EADDRINUSE') return `The server cannot listen on ${host}:${port} (${code}).`;
  return `Port ${port} is taken by another program; stop that one, or set FOLVEX_PORT to another number.`;
}
