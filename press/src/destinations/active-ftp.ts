import { once } from 'node:events';
import { connect, createServer, isIPv4, type AddressInfo, type Server, type Socket } from 'node:net';
import { connect as connectTls, TLSSocket } from 'node:tls';
import { FTPError, type Client, type FTPContext, type FTPResponse } from 'basic-ftp';

/** How long a server may take to connect after it was told where, ms. */
const CONNECT_MS = 20_000;
const LOOPBACK = '127.0.0.1';

/**
 * Has the server make the connections for files and lists (active mode: `PORT` of RFC 959, `EPRT` of RFC 2428). A port of
 * this machine is open for each only until the server has connected to it, the next one begins or the time is over, and
 * only to the host that commands go to. `connectMs`: how long the server may take to connect.
 */
export function makeActive(client: Client, connectMs = CONNECT_MS): void {
  // The library takes its listeners from a socket that it closes, so that nobody hears of that.
  let endLast = (): void => undefined;
  client.prepareTransfer = async (ftp): Promise<FTPResponse> => {
    endLast();
    const { localAddress, remoteAddress } = ftp.socket;
    if (localAddress === undefined || remoteAddress === undefined) throw new Error('the connection broke off');
    const { near, far } = await pair();
    const server = createServer({ pauseOnConnect: true });
    // Without a connection the library would wait for one as long as the server does not answer.
    const timer = setTimeout(() => far.resetAndDestroy(), connectMs);
    const close = (): void => {
      clearTimeout(timer);
      server.close();
    };
    far.once('close', close);
    endLast = () => {
      // Once joined it ends with what was sent.
      if (server.listening) far.destroy();
    };
    server.on('connection', (incoming) => {
      if (incoming.remoteAddress !== remoteAddress) return void incoming.destroy();
      close();
      join(far, incoming);
    });
    for (const one of [timer, server, far]) one.unref();
    try {
      const port = await listening(server, localAddress);
      const answer = await tell(ftp, localAddress, port);
      ftp.dataSocket = ftp.socket instanceof TLSSocket ? secured(ftp, near) : near;
      return answer;
    } catch (error) {
      near.destroy();
      endLast();
      throw error;
    }
  };
}

/** Tells the server where to connect to. Servers that do not know `EPRT` are told by `PORT`. */
async function tell(ftp: FTPContext, address: string, port: number): Promise<FTPResponse> {
  const host = address.replace(/^::ffff:/i, '');
  try {
    return await ftp.request(`EPRT |${isIPv4(host) ? 1 : 2}|${host}|${port}|`);
  } catch (error) {
    if (!(error instanceof FTPError) || !isIPv4(host)) throw error;
    return ftp.request(`PORT ${[...host.split('.'), port >> 8, port & 255].join(',')}`);
  }
}

/** The client's side of TLS, which it has in active mode too (RFC 4217, 7), with the session of the commands. */
function secured(ftp: FTPContext, socket: Socket): TLSSocket {
  const session = ftp.tlsSessionStore ?? (ftp.socket as TLSSocket).getSession();
  const secure = connectTls({ ...ftp.tlsOptions, socket, ...(session && { session }) });
  secure.on('session', (next) => (ftp.tlsSessionStore = next));
  return secure;
}

/**
 * Two ends of a connection within this machine. The library wants a socket before the server has made its connection,
 * whose bytes go through this one later.
 */
async function pair(): Promise<{ near: Socket; far: Socket }> {
  const server = createServer({ pauseOnConnect: true });
  const near = connect({ host: LOOPBACK, port: await listening(server, LOOPBACK) });
  const connected = once(near, 'connect');
  const far = await new Promise<Socket>((resolve) => {
    server.on('connection', (one) => {
      void connected.then(() => (one.remotePort === near.localPort ? resolve(one) : one.destroy()));
    });
  });
  server.close();
  for (const end of [near, far]) end.on('error', () => undefined);
  return { near, far };
}

async function listening(server: Server, host: string): Promise<number> {
  server.listen(0, host);
  await once(server, 'listening');
  return (server.address() as AddressInfo).port;
}

/** Passes on what comes, both ways; where one ends or breaks off, the other does. */
function join(one: Socket, other: Socket): void {
  for (const [from, to] of [
    [one, other],
    [other, one],
  ] as const) {
    from.on('error', () => to.resetAndDestroy());
    from.on('close', () => to.destroySoon());
    from.pipe(to);
  }
}
