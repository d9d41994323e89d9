import type { AddressInfo } from 'node:net';
import { simpleParser, type ParsedMail } from 'mailparser';
import { SMTPServer } from 'smtp-server';

/** A mail server on loopback; keeps what it takes, and knows nobody whose address begins with `gone`. */
export async function mailServer() {
  const mails: ParsedMail[] = [];
  const server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    authOptional: true,
    logger: false,
    onAuth: (_auth, _session, done) => done(null, { user: 'drafting' }),
    onRcptTo: ({ address }, _session, done) =>
      done(address.startsWith('gone') ? Object.assign(new Error('no such mailbox'), { responseCode: 550 }) : undefined),
    onData: (stream, _session, done) => {
      void simpleParser(stream).then((mail) => {
        mails.push(mail);
        done();
      });
    },
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.server.address() as AddressInfo;
  return { mails, port, close: () => new Promise<void>((closed) => server.close(() => closed())) };
}
