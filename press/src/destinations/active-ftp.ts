import { on, once } from 'node:events';
import { connect, createServer, isIPv4, type AddressInfo, type Server, type Socket } from 'node:net';
import { connect as connectTls, TLSSocket } from 'node:tls';
import { FTPError, type Client, type FTPContext, type FTPResponse } from 'basic-ftp';

/** How long a server may take to connect once it knows where, ms. */
const CONNECT_MS = 20_000;
const LOOPBACK = '127.0.0.1';

/**
 * Has the server open the data connections (active mode: `PORT` of RFC 959, `EPRT` of RFC 2428). Each has a port of this
 * machine, which accepts only the host that commands go to, and is closed once the server has connected, when the next
 * transfer begins, or after a time. `connectMs`: how long the server may take to connect.
 */
export function makeActive(client: Client, connectMs = CONNECT_MS): void {
  // The library removes all listeners from a data socket before it closes it, so its end cannot be listened for.
  let endLast = (): void => undefined;
  client.prepareTransfer = async (ftp): Promise<FTPResponse> => {
    endLast();
    const { localAddress, remoteAddress } = ftp.socket;
    if (localAddress === undefined || remoteAddress === undefined) throw new Error('the connection broke off');
    const { near, far } = await pair();
    const server = createServer({ pauseOnConnect: true });
    let timer: NodeJS.Timeout | undefined;
    const close = (): void => {
      clearTimeout(timer);
      server.close();
    };
    far.once('close', close);
    endLast = () => {
      // After the server has connected, both ends close by themselves.
      if (server.listening) far.destroy();
    };
    server.on('connection', (incoming) => {
      if (incoming.remoteAddress !== remoteAddress) return void incoming.destroy();
      close();
      join(far, incoming);
    });
    for (const one of [server, far]) one.unref();
    // From here on the library hears of errors of the socket.
    const data = ftp.socket instanceof TLSSocket ? secured(ftp, near) : near;
    ftp.dataSocket = data;
    // Otherwise the library would wait for a server that neither connects nor answers.
    const giveUp = (): void => {
      data.destroy(new Error('the server opened no data connection'));
      far.destroy();
    };
    try {
      const answer = await tell(ftp, localAddress, await listening(server, localAddress));
      if (server.listening) timer = setTimeout(giveUp, connectMs).unref();
      return answer;
    } catch (error) {
      ftp.dataSocket = undefined;
      far.destroy();
      throw error;
    }
  };
}

/** Tells the server where to connect to: by `EPRT`, or by `PORT` where it does not know that. */
async function tell(ftp: FTPContext, address: string, port: number): Promise<FTPResponse> {
  const host = address.replace(/^::ffff:/i, '');
  try {
    return await ftp.request(`EPRT |${isIPv4(host) ? 1 : 2}|${host}|${port}|`);
  } catch (error) {
    if (!(error instanceof FTPError) || !isIPv4(host)) throw error;
    return ftp.request(`PORT ${[...host.split('.'), port >> 8, port & 255].join(',')}`);
  }
}

/** The client's side of TLS, which it keeps in active mode (RFC 4217, 7), with the session of the control connection. */
function secured(ftp: FTPContext, socket: Socket): TLSSocket {
  const session = ftp.tlsSessionStore ?? (ftp.socket as TLSSocket).getSession();
  const secure = connectTls({ ...ftp.tlsOptions, socket, ...(session && { session }) });
  secure.on('session', (next) => (ftp.tlsSessionStore = next));
  return secure;
}

/**
 * Both ends of a connection within this machine. The library needs a socket before the server has connected; what the server
 * sends or receives then passes through this one.
 */
async function pair(): Promise<{ near: Socket; far: Socket }> {
  const server = createServer({ pauseOnConnect: true });
  const port = await listening(server, LOOPBACK);
  const arrivals = on(server, 'connection') as AsyncIterable<[Socket]>;
  const near = connect({ host: LOOPBACK, port });
  try {
    await once(near, 'connect');
    for await (const [far] of arrivals) {
      if (far.remotePort === near.localPort) {
        for (const end of [near, far]) end.on('error', () => undefined);
        return { near, far };
      }
      // Some other program of this machine.
      far.destroy();
    }
    throw new Error('no connection within this machine');
  } finally {
    server.close();
  }
}

async function listening(server: Server, host: string): Promise<number> {
  server.listen(0, host);
  await once(server, 'listening');
  return (server.address() as AddressInfo).port;
}

/** Joins two connections: what one receives the other sends, and when one ends or breaks off, so does the other. */
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
