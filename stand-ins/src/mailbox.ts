import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { simpleParser, type ParsedMail } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { escaped } from './html';

export interface MailboxOptions {
  /** Ports of the mail server and of the page; 0: any that are free. */
  port?: number;
  pagePort?: number;
}

/** A mail server on loopback that keeps what it takes, with a page that shows it. Addresses that begin with `gone` are nobody's. */
export interface StandInMailbox {
  address: string;
  page: string;
  mails: ParsedMail[];
  stop(): Promise<void>;
}

export async function startMailbox({ port = 0, pagePort = 0 }: MailboxOptions = {}): Promise<StandInMailbox> {
  const mails: ParsedMail[] = [];
  const server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    authOptional: true,
    logger: false,
    onAuth: ({ username }, _session, done) => done(null, { user: username }),
    onRcptTo: ({ address }, _session, done) =>
      done(address.startsWith('gone') ? Object.assign(new Error('no such mailbox'), { responseCode: 550 }) : undefined),
    onData: (stream, _session, done) => {
      simpleParser(stream).then((mail) => (mails.push(mail), done()), done);
    },
  });
  const pages = createServer(({ url = '/' }, response) => sendPage(mails, url, response));
  await new Promise<void>((listening) => server.listen(port, '127.0.0.1', listening));
  await new Promise<void>((listening) => pages.listen(pagePort, '127.0.0.1', listening));
  return {
    address: `smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`,
    page: `http://127.0.0.1:${(pages.address() as AddressInfo).port}/`,
    mails,
    stop: async () => {
      pages.closeAllConnections();
      await new Promise<void>((closed) => pages.close(() => closed()));
      await new Promise<void>((closed) => server.close(closed));
    },
  };
}

/** All mails, the latest first, or one file that is attached to one of them: `/2/1` is the second of the third. */
function sendPage(mails: readonly ParsedMail[], url: string, response: ServerResponse): void {
  const [, mail, file] = /^\/(\d+)\/(\d+)$/.exec(url) ?? [];
  const attached = mails[Number(mail)]?.attachments[Number(file)];
  if (attached) return void response.writeHead(200, { 'Content-Type': attached.contentType }).end(attached.content);
  if (url !== '/') return void response.writeHead(404).end();
  const shown = mails.map(mailOf).reverse().join('') || '<p>Nothing yet.</p>';
  response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' })
    .end(`<!doctype html><html lang="en"><head><title>Mailbox</title><meta http-equiv="refresh" content="5"><style>
body { margin: 24px; background: #f5f3ee; color: #222; font: 15px sans-serif; }
article { margin-bottom: 16px; padding: 12px 16px; border: 1px solid #bbb; background: #fff; } pre { font: inherit; white-space: pre-wrap; }
</style></head><body><h1>Mailbox</h1>${shown}</body></html>`);
}

function mailOf({ from, to, subject = '', text = '', date, attachments }: ParsedMail, at: number): string {
  const recipients = [to ?? []]
    .flat()
    .map((one) => one.text)
    .join(', ');
  const files = attachments.map(
    ({ filename = 'file', size }, i) => `<li><a href="/${at}/${i}">${escaped(filename)}</a>, ${size} bytes</li>`,
  );
  const linked = escaped(text).replace(/https?:\/\/\S+/g, (link) => `<a href="${link}">${link}</a>`);
  return `<article><h2>${escaped(subject)}</h2><p>From ${escaped(from?.text ?? '')} to ${escaped(recipients)}, ${date?.toISOString() ?? ''}</p><pre>${linked}</pre><ul>${files.join('')}</ul></article>`;
}
