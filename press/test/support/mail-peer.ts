import { mkdirSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { simpleParser, type ParsedMail } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import type { TransferLogin } from '../../src/destinations/transfer-login';
import { ownCertificate } from './peers';

/** A reply of an SMTP server (RFC 5321, 4.2). */
export interface Reply {
  code: number;
  text: string;
}

/** A mail server that runs for a test, and keeps what it takes. */
export interface MailPeer {
  login: TransferLogin;
  /** Every mail that it has taken, as it came and as mailparser reads it, with the recipients it was sent to. */
  mails: { raw: Buffer; parsed: ParsedMail; to: string[] }[];
  /** What it says to a recipient in place of taking mail for them; undefined: it takes it. */
  replies: Map<string, Reply>;
  /** Breaks the connection off once it has taken a mail, so many times, before it says so. */
  breaks: number;
  /** Settles before it says that it has taken a mail. */
  pause: Promise<void>;
  stop(): Promise<void>;
}

/** smtp-server on loopback, which asks for user and password; with TLS by STARTTLS and a certificate that nobody vouches for. */
export async function startMailServer(
  folder: string,
  { isSecure = false, asksForUser = true } = {},
): Promise<MailPeer> {
  mkdirSync(folder, { recursive: true });
  const own = isSecure ? ownCertificate(folder) : undefined;
  const tls = own && { key: readFileSync(own.key), cert: readFileSync(own.certificate) };
  const peer: Pick<MailPeer, 'mails' | 'replies' | 'breaks' | 'pause'> = {
    ...{ mails: [], replies: new Map(), breaks: 0 },
    pause: Promise.resolve(),
  };
  const server = new SMTPServer({
    ...tls,
    disabledCommands: [...(tls ? [] : ['STARTTLS']), ...(asksForUser ? [] : ['AUTH'])],
    authOptional: !asksForUser,
    logger: false,
    onAuth: ({ username, password }, _session, done) => {
      if (username === 'harbour' && password === 'secret') done(null, { user: username });
      else done(Object.assign(new Error('wrong user or password'), { responseCode: 535 }));
    },
    onRcptTo: ({ address }, _session, done) => {
      const reply = peer.replies.get(address);
      done(reply && Object.assign(new Error(reply.text), { responseCode: reply.code }));
    },
    onData: (stream, { envelope }, done) => {
      void keep(stream).then((raw) => {
        void simpleParser(raw).then((parsed) => {
          peer.mails.push({ raw, parsed, to: envelope.rcptTo.map(({ address }) => address) });
          if (peer.breaks-- > 0) server.connections.forEach((connection) => connection.close());
          else void peer.pause.then(() => done());
        });
      });
    },
  });
  // A client that goes away is no matter of the server's.
  server.on('error', () => undefined);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.server.address() as AddressInfo;
  const login = {
    ...{
      name: 'Peer',
      address: `${isSecure ? 'smtps' : 'smtp'}://127.0.0.1:${port}`,
      user: 'harbour',
      secret: 'secret',
    },
    fingerprint: own?.fingerprint ?? null,
  };
  const stop = (): Promise<void> => new Promise((stopped) => server.close(() => stopped()));
  return Object.assign(peer, { login, stop });
}

async function keep(stream: AsyncIterable<Buffer>): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(chunk);
  return Buffer.concat(chunks);
}
