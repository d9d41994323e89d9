import { once } from 'node:events';
import { connect, createServer, type AddressInfo, type Server } from 'node:net';
import { Client } from 'basic-ftp';
import { makeActive } from '../../src/destinations/active-ftp';

/** An FTP server (RFC 959) that only lists, in active mode; `use` is what it does with the port it is to connect to. */
async function ftpServer(verb: 'EPRT' | 'PORT', use: (port: number) => void): Promise<Server> {
  const server = createServer((socket) => {
    socket.write('220 Ready\r\n');
    socket.on('data', (chunk: Buffer) => {
      const [command = '', argument = ''] = String(chunk).trim().split(' ');
      const replies: Record<string, string> = {
        USER: '331 Password',
        PASS: '230 In',
        [verb]: '200 There',
        LIST: '150 Now',
      };
      socket.write(`${replies[command] ?? '502 Not known'}\r\n`);
      if (command !== verb) return;
      const [high, low] = argument.split(',').slice(-2).map(Number);
      use(verb === 'PORT' ? high! * 256 + low! : Number(argument.split('|')[3]));
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
    const control = new Map<string, () => void>();
    const server = await ftpServer('PORT', (port) => {
      connect({ port, host: '127.0.0.1' }).end('-rw-r--r-- 1 a a 5 Nov 28 2026 A-101.pdf\r\n', () =>
        control.get('done')?.(),
      );
    });
    server.on('connection', (socket) => control.set('done', () => socket.write('226 Done\r\n')));
    expect((await listed(server)).map(({ name, size }) => [name, size])).toEqual([['A-101.pdf', 5]]);
  });

  it('accepts no connection from another address, and does not wait for ever', async () => {
    const closed: Promise<unknown>[] = [];
    const server = await ftpServer('EPRT', (port) => {
      const stranger = connect({ port, host: '127.0.0.1', localAddress: '127.0.0.2' });
      stranger.on('error', () => undefined);
      closed.push(once(stranger.resume(), 'close'));
    });
    await expect(listed(server, 50)).rejects.toThrow();
    expect(closed).toHaveLength(1);
    await Promise.all(closed);
  });
});
