import { stat } from 'node:fs/promises';
import { isIP } from 'node:net';
import { basename } from 'node:path';
import type { ConnectionOptions, TLSSocket } from 'node:tls';
import { createTransport } from 'nodemailer';
import SMTPConnection from 'nodemailer/lib/smtp-connection';
import { bytesInWords, ProblemError, type Delivered, type Problem } from '@folvex/core';
import type { DeliveredFile, MailedPage, MailPort } from './port';
import { partsOf, StepFailed, type TransferLogin } from './transfer-login';
import { certificateOf, trustOnly, type ShownCertificate } from './trust';

/** How long a server may take to answer, and to take an email once it has been sent (RFC 5321, 4.5.3.2.6), ms. */
const [ANSWER_MS, TAKEN_MS] = [20_000, 10 * 60_000];
/** Here TLS begins with the connection (RFC 8314, 3.3); elsewhere it is asked for (RFC 3207). */
const IMPLICIT_TLS_PORT = 465;

/** Errors of the client that follow from what the server offers, without a reply of its own: another attempt would meet them too. */
const REFUSED_BY_CLIENT: ReadonlySet<string> = new Set(['EAUTH', 'EENVELOPE', 'EMESSAGE']);

/** What an error of the client says; `responseCode` is the server's reply (RFC 5321, 4.2.1). */
interface SmtpError extends Error {
  code?: string;
  response?: string;
  responseCode?: number;
}

/** How the client connects: with TLS and nothing else where the address wants it, else without. */
function connecting({ address }: TransferLogin, tls: ConnectionOptions): SMTPConnection.Options {
  const { scheme, host, port } = partsOf(address);
  const isSecure = scheme === 'smtps';
  return {
    ...{ host, port, secure: isSecure && port === IMPLICIT_TLS_PORT, requireTLS: isSecure, ignoreTLS: !isSecure },
    // Addresses have no name that a certificate could be for (RFC 6066, 3).
    tls: { ...(isIP(host) === 0 && { servername: host }), ...tls },
    ...{ connectionTimeout: ANSWER_MS, greetingTimeout: ANSWER_MS, socketTimeout: TAKEN_MS },
  };
}

/**
 * The certificate that a mail server shows, and how to connect to it; none where the address is without TLS. Rejects with a
 * `StepFailed` where it does not answer, or shows one that is neither trusted nor accepted.
 */
async function secured(login: TransferLogin): Promise<{ certificate?: ShownCertificate; tls: ConnectionOptions }> {
  if (partsOf(login.address).scheme === 'smtp') return { tls: {} };
  const connection = new SMTPConnection(connecting(login, { rejectUnauthorized: false }));
  try {
    await new Promise<void>((resolve, reject) => {
      connection.once('error', reject);
      connection.connect(() => resolve());
    });
    // The client has no other way to tell what was shown to it.
    const certificate = certificateOf((connection as unknown as { _socket: TLSSocket })._socket);
    return { certificate, tls: trustOnly(login, certificate) };
  } catch (error) {
    throw error instanceof StepFailed ? error : away(login, error as SmtpError);
  } finally {
    // Errors of a connection that is no longer needed are nobody's.
    connection.on('error', () => undefined);
    connection.close();
  }
}

function transportTo(login: TransferLogin, tls: ConnectionOptions) {
  const { user, secret } = login;
  // Else a server that offers no sign-in would be taken for one that was signed in to.
  const signIn = user ? { auth: { user, pass: secret }, forceAuth: true } : {};
  return createTransport({ ...connecting(login, tls), ...signIn });
}

/** Connects and signs in, without sending anything. Rejects with a `StepFailed` that says at which step. */
export async function signInToMail(login: TransferLogin): Promise<ShownCertificate | undefined> {
  const { certificate, tls } = await secured(login);
  const transport = transportTo(login, tls);
  try {
    await transport.verify();
    return certificate;
  } catch (error) {
    throw failureOf(login, error as SmtpError);
  } finally {
    transport.close();
  }
}

/** An email as it is written; its text stands above the list of its files. */
export interface MailMessage {
  from: string;
  to: string;
  subject: string;
  text: string;
  /** Limit for the message with its files, as they are encoded. */
  maxBytes: number;
  /** True where files are never attached. */
  isOnPage: boolean;
}

type SizedFile = DeliveredFile & { bytes: number };

/** The mailbox of one recipient, by a mail server. */
export function mailbox(login: TransferLogin, message: MailMessage): MailPort {
  const { from, to, subject } = message;
  return {
    where: to,
    send: async (id, files, { enclosed = [], page: newPage } = {}) => {
      const [sized, others] = [await withSizes(files), await withSizes(enclosed)];
      const isOnPage = message.isOnPage || encodedTotal([...sized, ...others]) > message.maxBytes;
      if (isOnPage && !newPage) throw new ProblemError(noPage(message, encodedTotal(sized)));
      const page = isOnPage ? await newPage!() : undefined;
      const { tls } = await secured(login);
      const transport = transportTo(login, tls);
      try {
        await transport.sendMail({
          ...{ from, to, messageId: `<${id}@${from.slice(from.indexOf('@') + 1)}>` },
          subject: subject.replace(/\s+/g, ' ').trim(),
          text: textOf(message, sized, { others, page }),
          attachments: attached(page ? others : [...sized, ...others]),
          // Attachments are files of this machine.
          disableUrlAccess: true,
        });
      } catch (error) {
        throw failureOf(login, error as SmtpError, to);
      } finally {
        transport.close();
      }
      return files.map(({ path }): Delivered => ({ path, how: page ? 'on a page' : 'mailed' }));
    },
    close: () => Promise.resolve(),
  };
}

function withSizes(files: readonly DeliveredFile[]): Promise<SizedFile[]> {
  return Promise.all(files.map(async (file) => ({ ...file, bytes: (await stat(file.from)).size })));
}

/** What an email says: its own text, where the files are, and their names. */
function textOf(
  { text, from }: MailMessage,
  files: readonly SizedFile[],
  { others, page }: { others: readonly SizedFile[]; page: MailedPage | undefined },
): string {
  const listed = (some: readonly SizedFile[]): string[] =>
    some.map(({ path, bytes }) => `${path} (${bytesInWords(bytes)})`);
  const own = text.trim() === '' ? [] : [text.trim(), ''];
  if (!page) return [...own, ...listed([...files, ...others]), ''].join('\n');
  const password = page.hasPassword ? [`The page asks for a password; ${from} has it.`, ''] : [];
  const link = [`The files can be downloaded here until ${page.until}:`, page.link, ''];
  const enclosed = others.length > 0 ? ['', 'Attached:', ...listed(others)] : [];
  return [...own, ...link, ...password, ...listed(files), ...enclosed, ''].join('\n');
}

/** Files under their own names; where several have the same one, with their folders. */
function attached(files: readonly DeliveredFile[]): { path: string; filename: string }[] {
  const names = files.map(({ path }) => basename(path));
  return files.map(({ from, path }, i) => {
    const isShared = names.indexOf(names[i]!) !== names.lastIndexOf(names[i]!);
    return { path: from, filename: isShared ? path.replaceAll('/', ' - ') : names[i]! };
  });
}

function encodedTotal(files: readonly SizedFile[]): number {
  return files.reduce((sum, { bytes }) => sum + encodedBytes(bytes), 0);
}

/** Size of a file in an email: base64 in lines of 76 characters (RFC 2045, 6.8). */
function encodedBytes(bytes: number): number {
  const characters = Math.ceil(bytes / 3) * 4;
  return characters + 2 * Math.ceil(characters / 76);
}

/** Why nothing is sent where files must be on a page, and there are none. */
function noPage({ isOnPage, maxBytes }: MailMessage, bytes: number): Problem {
  const needed = 'A page for recipients needs an address that they can open: set FOLVEX_URL.';
  if (isOnPage) return { code: 'mail.page', sentence: `${needed} Nothing was sent.`, place: {} };
  const sentence = `The files take ${bytesInWords(bytes)} in an email, and the destination allows ${bytesInWords(maxBytes)}; nothing was sent. Deliver them to a transfer server, or allow larger emails. ${needed}`;
  return { code: 'mail.size', sentence, place: {} };
}

function away({ address }: TransferLogin, { code, message }: SmtpError): StepFailed {
  const { host, port } = partsOf(address);
  return new StepFailed('connection', `${host}:${port} does not answer as a mail server (${code ?? message}).`);
}

/**
 * Why an email was not sent. Replies that begin with 4 are temporary (RFC 5321, 4.2.1): it is tried again, as if nobody had
 * answered.
 */
function failureOf(login: TransferLogin, error: SmtpError, to = ''): StepFailed | ProblemError {
  const { code = '', responseCode, response = error.message } = error;
  const { name, user } = login;
  if (responseCode === undefined && !REFUSED_BY_CLIENT.has(code)) return away(login, error);
  if (responseCode !== undefined && responseCode < 500)
    return new StepFailed('connection', `${name} does not take emails now (${response}).`);
  if (code === 'EAUTH') {
    const sentence = `${name} refused to sign in ${user || 'nobody'} (${response}); check the user name and the password.`;
    return new StepFailed('sign-in', sentence);
  }
  const sentence = `${name} refused the email to ${to} (${response}); check the addresses, or ask its operator.`;
  return new ProblemError({ code: 'mail.refused', sentence, place: {} });
}
