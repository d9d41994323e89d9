import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { createReadStream, createWriteStream, type Stats } from 'node:fs';
import { mkdir, rename, rmdir, stat, unlink } from 'node:fs/promises';
import { connect, createServer, isIPv4, type AddressInfo, type Socket } from 'node:net';
import { posix } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createSecureContext, TLSSocket, type SecureContext } from 'node:tls';
import type { Certificate } from './certificate';
import { NotTaken, type ShareOptions, type StandInServer } from './shared-folder';

/** What the server can do beyond RFC 959 (RFC 2389). */
const FEATURES = ['EPRT', 'EPSV', 'HASH SHA-256*', 'MDTM', 'MLST type*;size*;modify*;', 'SIZE', 'UTF8'];
const TLS_FEATURES = ['AUTH TLS', 'PBSZ', 'PROT'];

/** An FTP server (RFC 959, 2428, 3659, draft-ietf-ftpext2-hash-03); with a `certificate` it takes passwords by TLS only (RFC 4217). */
export async function startFtpServer({
  certificate,
  ...share
}: ShareOptions & { certificate?: Certificate }): Promise<StandInServer> {
  const context = certificate && createSecureContext(certificate);
  const open = new Set<Socket>();
  const server = createServer((socket) => {
    open.add(socket);
    socket.on('close', () => open.delete(socket));
    new Session(socket, share, context).begin();
  });
  await new Promise<void>((listening) => server.listen(share.port ?? 0, '127.0.0.1', listening));
  return {
    address: `${certificate ? 'ftps' : 'ftp'}://127.0.0.1:${(server.address() as AddressInfo).port}`,
    fingerprint: certificate?.fingerprint ?? null,
    stop: () => {
      for (const socket of open) socket.destroy();
      return new Promise((closed) => server.close(() => closed()));
    },
  };
}

type Reply = [code: number, words: string];

/** A connection of a client: commands come line by line, each is answered before the next. */
class Session {
  private user = '';
  private isIn = false;
  private folder = '/';
  private renaming: string | undefined;
  /** Where the next file or list goes: one connection of its own. */
  private data: { open(): Promise<Socket>; close(): void } | undefined;
  private isPrivate = false;
  private last: Promise<void> = Promise.resolve();

  constructor(
    private socket: Socket,
    private readonly share: ShareOptions,
    private readonly context: SecureContext | undefined,
  ) {}

  begin(): void {
    this.listen(this.socket);
    this.say([220, 'Stand-in FTP server']);
  }

  private listen(socket: Socket): void {
    let rest = '';
    socket.setEncoding('utf8');
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.data?.close());
    socket.on('data', (chunk: string) => {
      const lines = (rest + chunk).split('\r\n');
      rest = lines.pop()!;
      for (const line of lines) this.last = this.last.then(() => this.obey(line));
    });
  }

  private say([code, words]: Reply): void {
    const lines = words.split('\n');
    const first = lines.length > 1 ? `${code}-${lines[0]}\r\n` : '';
    const between = lines.slice(1, -1).map((line) => ` ${line}\r\n`);
    if (!this.socket.destroyed) this.socket.write(`${first}${between.join('')}${code} ${lines.at(-1)}\r\n`);
  }

  private async obey(line: string): Promise<void> {
    const [, verb = '', argument = ''] = /^([A-Za-z]+) ?(.*)$/.exec(line) ?? [];
    try {
      const reply = await this.replyTo(verb.toUpperCase(), argument);
      if (reply) this.say(reply);
    } catch (error) {
      if (error instanceof NotTaken) {
        if (error.why === 'breaks') return void this.socket.destroy();
        return this.say([552, 'No room']);
      }
      this.say([550, (error as Error).message]);
    }
  }

  private async replyTo(verb: string, argument: string): Promise<Reply | undefined> {
    switch (verb) {
      case 'AUTH':
        return this.beginTls();
      case 'PBSZ':
        return [200, 'PBSZ=0'];
      case 'PROT':
        this.isPrivate = argument.toUpperCase() === 'P';
        return [200, 'Protection is set'];
      case 'USER':
        if (this.context && !(this.socket instanceof TLSSocket)) return [530, 'TLS only'];
        this.user = argument;
        return [331, 'Password, please'];
      case 'PASS':
        return this.signIn(argument);
      case 'FEAT':
        return [211, ['Features', ...FEATURES, ...(this.context ? TLS_FEATURES : []), 'End'].join('\n')];
      case 'QUIT':
        this.say([221, 'Goodbye']);
        this.socket.end();
        return undefined;
      case 'SYST':
        return [215, 'UNIX Type: L8'];
      case 'NOOP':
      case 'OPTS':
      case 'TYPE':
      case 'STRU':
        return [200, 'OK'];
      default:
        return this.isIn ? this.replyInside(verb, argument) : [530, 'Sign in first'];
    }
  }

  private async replyInside(verb: string, given: string): Promise<Reply | undefined> {
    // `LIST -a /folder`: options of `ls`, which many servers take (common practice).
    const argument = verb === 'LIST' ? given.replace(/^-\w+ ?/, '') : given;
    const { folder } = this.share;
    const path = posix.resolve(this.folder, argument);
    const file = folder.at(path);
    switch (verb) {
      case 'PWD':
        return [257, `"${this.folder}"`];
      case 'CWD':
        if (!(await stat(file)).isDirectory()) return [550, 'Not a folder'];
        this.folder = folder.inside(path);
        return [250, 'OK'];
      case 'EPSV':
      case 'PASV':
        return this.openPassive(verb);
      case 'EPRT':
      case 'PORT':
        return this.setActive(given);
      case 'HASH':
        return this.hash(path, given);
      case 'MLSD':
      case 'LIST':
        return this.list(path);
      case 'SIZE':
        return [213, String((await stat(file)).size)];
      case 'MDTM':
        return [213, momentOf(await stat(file))];
      case 'RETR':
        await stat(file);
        return this.transfer((data) => pipeline(createReadStream(file), data));
      case 'STOR':
        return this.transfer((data) => pipeline(data, folder.intake(), createWriteStream(file)));
      case 'RNFR':
        await stat(file);
        this.renaming = file;
        return [350, 'To what?'];
      case 'RNTO':
        if (this.renaming === undefined) return [503, 'RNFR first'];
        await rename(this.renaming, file);
        this.renaming = undefined;
        return [250, 'OK'];
      case 'DELE':
        await unlink(file);
        return [250, 'OK'];
      case 'MKD':
        await mkdir(file);
        return [257, `"${path}"`];
      case 'RMD':
        await rmdir(file);
        return [250, 'OK'];
      default:
        return [502, 'Not known here'];
    }
  }

  private beginTls(): Reply | undefined {
    if (!this.context) return [502, 'No TLS here'];
    this.say([234, 'Begin TLS']);
    const plain = this.socket;
    plain.removeAllListeners('data');
    this.socket = new TLSSocket(plain, { isServer: true, secureContext: this.context });
    this.listen(this.socket);
    return undefined;
  }

  private signIn(password: string): Reply {
    const { account, folder } = this.share;
    this.isIn = this.user === account.user && password === account.password && !folder.faults.has('refuses');
    return this.isIn ? [230, 'Welcome'] : [530, 'Wrong user or password'];
  }

  private async openPassive(verb: 'EPSV' | 'PASV'): Promise<Reply> {
    this.data?.close();
    const server = createServer({ pauseOnConnect: true });
    // Clients connect before they say what for.
    const connected = new Promise<Socket>((resolve, reject) => {
      server.once('connection', resolve);
      server.once('close', () => reject(new Error('the client is gone')));
    });
    connected.catch(() => undefined);
    this.data = { open: () => connected, close: () => void server.close() };
    await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
    const { port } = server.address() as AddressInfo;
    return verb === 'EPSV'
      ? [229, `Extended passive mode (|||${port}|)`]
      : [227, `Passive mode (127,0,0,1,${port >> 8},${port & 255})`];
  }

  /** Remembers where to connect to; only the client's own address is accepted (RFC 2577, 3). */
  private setActive(argument: string): Reply {
    this.data?.close();
    const [, extended, extendedPort] = /^\|1\|([\d.]+)\|(\d+)\|$/.exec(argument) ?? [];
    const numbers = argument.split(',').map(Number);
    const host = extended ?? numbers.slice(0, 4).join('.');
    const port = extendedPort ? Number(extendedPort) : numbers[4]! * 256 + numbers[5]!;
    if (!isIPv4(host) || !(port > 0 && port < 65_536)) return [501, 'Not an address'];
    if (host !== this.socket.remoteAddress?.replace(/^::ffff:/, '')) return [500, 'That is not your address'];
    const open = async (): Promise<Socket> => {
      const socket = connect(port, host);
      await once(socket, 'connect');
      return socket;
    };
    this.data = { open, close: () => undefined };
    return [200, 'Ready to connect'];
  }

  private async hash(path: string, given: string): Promise<Reply> {
    const { size } = await stat(this.share.folder.at(path));
    const hash = createHash('sha256');
    await pipeline(createReadStream(this.share.folder.at(path)), hash);
    return [213, `SHA-256 0-${size} ${hash.digest('hex')} ${given}`];
  }

  private async list(path: string): Promise<Reply> {
    const lines = (await this.share.folder.entries(path)).map(({ name, stats }) => {
      const type = stats.isDirectory() ? 'dir' : 'file';
      return `type=${type};size=${stats.size};modify=${momentOf(stats)}; ${name}\r\n`;
    });
    return this.transfer(async (data) => void data.end(lines.join('')));
  }

  /** Has a file or list go by a connection of its own, which ends with it. */
  private async transfer(send: (data: Socket) => Promise<void>): Promise<Reply> {
    if (!this.data) return [425, 'PASV, EPSV, PORT or EPRT first'];
    const { open, close } = this.data;
    this.say([150, 'Here it comes']);
    try {
      const plain = await open();
      const data = this.isPrivate && this.context ? await secured(plain, this.context) : plain;
      data.on('error', () => data.destroy());
      try {
        await send(data);
      } catch (error) {
        data.destroy();
        throw error;
      }
      return [226, 'Done'];
    } finally {
      close();
      this.data = undefined;
    }
  }
}

/** The server's side of TLS on a connection, once both have agreed on it. */
function secured(plain: Socket, secureContext: SecureContext): Promise<Socket> {
  const socket = new TLSSocket(plain, { isServer: true, secureContext });
  return new Promise((resolve, reject) => {
    socket.once('secure', () => resolve(socket));
    socket.once('error', reject);
    socket.once('close', () => reject(new Error('the client is gone')));
  });
}

/** A moment as YYYYMMDDhhmmss, UTC (RFC 3659, 2.3). */
function momentOf({ mtime }: Stats): string {
  return mtime.toISOString().replace(/\D/g, '').slice(0, 14);
}
