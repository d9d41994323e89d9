import { once } from 'node:events';
import { connect, createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { Client } from 'basic-ftp';
import { makeActive } from '../../src/destinations/active-ftp';

const FILE = '-rw-r--r-- 1 a a 5 Nov 28 2026 A-101.pdf\r\n';

/**
 * An FTP server (RFC 959) that lists one file, in active mode. `open` connects to the port that it is told, before that is
 * answered; where it returns no connection, the list waits for ever.
 */
async function ftpServer(verb: 'EPRT' | 'PORT', open: (port: number) => Promise<Socket | undefined>): Promise<Server> {
  const server = createServer((socket) => {
    const say = (reply: string): void => void socket.write(`${reply}\r\n`);
    let data: Socket | undefined;
    const obey = async (command: string, argument: string): Promise<void> => {
      if (command === 'USER') return say('331 Password');
      if (command === 'PASS') return say('230 In');
      if (command === 'LIST') {
        say('150 Now');
        return void data?.end(FILE, () => say('226 Done'));
      }
      if (command !== verb) return say('502 Not known');
      const [high, low] = argument.split(',').slice(-2).map(Number);
      data = await open(verb === 'PORT' ? high! * 256 + low! : Number(argument.split('|')[3]));
      say('200 There');
    };
    say('220 Ready');
    socket.on('data', (chunk: Buffer) => {
      const [command = '', argument = ''] = String(chunk).trim().split(' ');
      void obey(command, argument);
    });
    socket.on('error', () => undefined);
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  return server;
}

async function listed(server: Server, connectMs?: number) {
  const client = new Client();
  try {
    await client.connect('127.0.0.1', (server.address() as AddressInfo).port);
    await client.login('folvex', 'quay 7');
    makeActive(client, connectMs);
    return await client.list();
  } finally {
    client.close();
    server.close();
  }
}

describe('active FTP', () => {
  it('falls back to PORT where a server does not know EPRT', async () => {
    const server = await ftpServer('PORT', async (port) => {
      const data = connect({ port, host: '127.0.0.1' });
      await once(data, 'connect');
      return data;
    });
    expect((await listed(server)).map(({ name, size }) => [name, size])).toEqual([['A-101.pdf', 5]]);
  });

  it('accepts no connection from another address, and does not wait for ever', async () => {
    const seen: string[] = [];
    const server = await ftpServer('EPRT', async (port) => {
      const stranger = connect({ port, host: '127.0.0.1', localAddress: '127.0.0.2' });
      stranger.on('error', () => undefined).on('connect', () => seen.push('connected'));
      await new Promise((closed) => stranger.resume().on('close', closed));
      seen.push('closed');
      return undefined;
    });
    await expect(listed(server, 1)).rejects.toThrow('the server opened no data connection');
    expect(seen).toEqual(['connected', 'closed']);
  });
});
