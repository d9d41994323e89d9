import { createReadStream } from 'node:fs';
import { request as httpRequest, type IncomingMessage, type RequestOptions } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { isIP } from 'node:net';
import { pipeline } from 'node:stream';
import { connect, type ConnectionOptions } from 'node:tls';
import ipp, { type Attributes, type Message, type Value } from '@sealsystems/ipp';
import { describePaper, ProblemError, type Medium } from '@folvex/core';
import type { PlotJobState, PlotterFacts, PlotterPort } from './port';
import { partsOf, StepFailed, type TransferLogin } from './transfer-login';
import { certificateOf, trustOnly, type ShownCertificate } from './trust';

/** How long a plotter may take to answer; one that takes a large job is busy for a while, ms. */
const [ANSWER_MS, TAKEN_MS] = [20_000, 10 * 60_000];
/** Attributes for unprintable margins (PWG 5100.7): of the paper of a job, and those that a plotter supports. */
const EDGES = {
  ofPaper: ['media-top-margin', 'media-bottom-margin', 'media-left-margin', 'media-right-margin'],
  supported: ['top', 'bottom', 'left', 'right'].map((edge) => `media-${edge}-margin-supported`),
} as const;
/** Units of sizes on the wire to the millimetre (PWG 5100.7, `media-size`). */
const UNITS = 100;
/** Jobs that are asked for at once: more than anybody looks at. */
const MAX_JOBS = 500;
const MM_PER_INCH = 25.4;

/** States of jobs that go no further (RFC 8011, 5.3.7). */
const ENDS: Readonly<Record<string, PlotJobState['state']>> = {
  completed: 'done',
  canceled: 'cancelled',
  aborted: 'failed',
};

/** The certificate that a plotter shows, and how to connect to it; none where the address is without TLS. */
export async function securedPlotter(
  login: TransferLogin,
): Promise<{ certificate?: ShownCertificate; tls: ConnectionOptions }> {
  const { scheme, host, port } = partsOf(login.address);
  if (scheme === 'ipp') return { tls: {} };
  const certificate = await new Promise<ShownCertificate>((resolve, reject) => {
    // Addresses have no name that a certificate could be for (RFC 6066, 3).
    const name = isIP(host) === 0 ? { servername: host } : {};
    const socket = connect({ host, port, ...name, rejectUnauthorized: false, timeout: ANSWER_MS }, () => {
      resolve(certificateOf(socket));
      socket.end();
    });
    socket.on('error', (error) => reject(away(login, error)));
    socket.on('timeout', () => socket.destroy(new Error('no answer')));
  });
  return { certificate, tls: trustOnly(login, certificate) };
}

/** A plotter that speaks IPP (RFC 8011). */
export function plotter(login: TransferLogin): PlotterPort {
  const { scheme, host, port, folder } = partsOf(login.address);
  const uri = `${scheme}://${host}:${port}${folder || '/'}`;
  const ask = async (operation: string, attributes: Attributes, more: Partial<Message> = {}, file?: string) => {
    const head = ipp.serialize({
      operation,
      'operation-attributes-tag': {
        ...{ 'attributes-charset': 'utf-8', 'attributes-natural-language': 'en', 'printer-uri': uri },
        'requesting-user-name': login.user || 'folvex',
        ...attributes,
      },
      ...more,
    });
    const { tls } = await securedPlotter(login);
    return answerOf(login, await exchange(login, { ...tls, host, port, path: folder || '/' }, head, file));
  };
  return {
    where: login.name,
    facts: async () => {
      const wanted = ['printer-state', 'printer-state-reasons', 'media-ready', 'media-col-ready', ...EDGES.supported];
      const { 'printer-attributes-tag': told = {} } = await ask('Get-Printer-Attributes', {
        'requested-attributes': wanted,
      });
      const state = String(told['printer-state'] ?? 'idle') as PlotterFacts['state'];
      const reasons = listOf(told['printer-state-reasons']).map(String);
      return {
        state,
        reasons: reasons.filter((reason) => reason !== 'none'),
        media: mediaOf(told),
        marginMm: marginOf(told),
      };
    },
    print: async ({ name, file, width, length, isGrey }) => {
      const asked = { 'job-name': name, 'document-format': 'application/pdf' };
      const { 'job-attributes-tag': job } = await ask(
        'Print-Job',
        asked,
        { 'job-attributes-tag': template(width, length, isGrey) },
        file,
      );
      const [taken] = listOf(job) as Attributes[];
      return Number(taken?.['job-id'] ?? 0);
    },
    jobs: async () => {
      const asked = async (which: 'completed' | 'not-completed'): Promise<PlotJobState[]> => {
        const { 'job-attributes-tag': jobs } = await ask('Get-Jobs', {
          ...{ 'which-jobs': which, 'my-jobs': false, limit: MAX_JOBS },
          'requested-attributes': ['job-id', 'job-name', 'job-state'],
        });
        return listOf(jobs as Value | undefined).map((job) => stateOf(job as Attributes));
      };
      // In this order a job that ends between the two questions is in at least one answer.
      const open = await asked('not-completed');
      const ended = await asked('completed');
      const endedIds = new Set(ended.map(({ id }) => id));
      return [...open.filter(({ id }) => !endedIds.has(id)), ...ended];
    },
    cancel: async (id) => {
      await ask('Cancel-Job', { 'job-id': id });
    },
    close: () => Promise.resolve(),
  };
}

/** What a job says of its paper: of this size, to its edges, at true size. */
function template(widthMm: number, lengthMm: number, isGrey: boolean): Attributes {
  const [x, y] = [widthMm, lengthMm].map((mm) => Math.round(mm * UNITS)) as [number, number];
  const margins = Object.fromEntries(EDGES.ofPaper.map((key) => [key, 0]));
  return {
    'media-col': { 'media-size': { 'x-dimension': x, 'y-dimension': y }, ...margins },
    'print-scaling': 'none',
    ...(isGrey && { 'print-color-mode': 'monochrome' }),
  };
}

function stateOf(job: Attributes): PlotJobState {
  const [id, name, state] = [Number(job['job-id']), String(job['job-name'] ?? ''), String(job['job-state'])];
  return { id, name, state: ENDS[state] ?? 'open' };
}

/**
 * What a plotter says that it holds: by sizes, where the length of a roll is a range or 0 (PWG 5100.7), or by names such as
 * `roll_main_610x0mm` and `iso_a3_297x420mm` (PWG 5101.1, 5).
 */
function mediaOf(told: Attributes): Medium[] {
  const found = new Map<string, Medium>();
  const add = (isRoll: boolean, width: number, height: number): void => {
    if (!(width > 0)) return;
    const medium: Medium = isRoll
      ? { kind: 'roll', width }
      : { kind: 'sheet', name: describePaper({ width, height }), width, height };
    found.set(`${medium.kind} ${width} ${height}`, medium);
  };
  for (const entry of listOf(told['media-col-ready'])) {
    const { 'x-dimension': x, 'y-dimension': y } = ((entry as Attributes)['media-size'] ?? {}) as Attributes;
    if (typeof x !== 'number') continue;
    add(typeof y !== 'number' || y === 0, x / UNITS, typeof y === 'number' ? y / UNITS : 0);
  }
  for (const entry of listOf(told['media-ready'])) {
    const [, kind, width, height, unit] =
      /^([a-z]+)_[^_]+_(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)(mm|in)$/.exec(String(entry)) ?? [];
    if (kind === undefined) continue;
    const toMm = (side: string | undefined): number => Number(side) * (unit === 'in' ? MM_PER_INCH : 1);
    add(kind === 'roll', toMm(width), kind === 'roll' ? 0 : toMm(height));
  }
  return [...found.values()];
}

/** The widest unprintable margin, mm. A plotter lists the margins that it supports for each edge; the smallest one counts. */
function marginOf(told: Attributes): number {
  const least = EDGES.supported.flatMap((key) => {
    const widths = listOf(told[key]).filter((one): one is number => typeof one === 'number');
    return widths.length > 0 ? [Math.min(...widths)] : [];
  });
  return Math.max(0, ...least) / UNITS;
}

function listOf<T>(value: T | readonly T[] | undefined): T[] {
  return value === undefined ? [] : ([value].flat() as T[]);
}

/** Posts a message, with a file after it; resolves with the message that comes back. */
function exchange(login: TransferLogin, options: RequestOptions, head: Buffer, file?: string): Promise<Message> {
  const { user, secret } = login;
  const isSecure = partsOf(login.address).scheme === 'ipps';
  return new Promise((resolve, reject) => {
    const fail = (error: Error): void => reject(error instanceof StepFailed ? error : away(login, error));
    const request = (isSecure ? httpsRequest : httpRequest)({
      ...options,
      method: 'POST',
      headers: { 'Content-Type': 'application/ipp' },
      ...(user && { auth: `${user}:${secret}` }),
      timeout: file === undefined ? ANSWER_MS : TAKEN_MS,
    });
    request.on('timeout', () => request.destroy(new Error('no answer')));
    request.on('error', fail);
    request.on('response', (response) => {
      readAnswer(login, response).then(resolve, fail);
    });
    request.write(head);
    if (file === undefined) request.end();
    else pipeline(createReadStream(file), request, (error) => error && fail(error));
  });
}

async function readAnswer(login: TransferLogin, response: IncomingMessage): Promise<Message> {
  const chunks: Buffer[] = [];
  for await (const chunk of response) chunks.push(chunk as Buffer);
  const { statusCode = 0 } = response;
  if (statusCode === 401 || statusCode === 403) throw refusedSignIn(login);
  if (statusCode !== 200) throw new Error(`HTTP ${statusCode}`);
  return ipp.parse(Buffer.concat(chunks));
}

/** An answer that is no refusal. Those that are the server's own trouble may be over at the next attempt (RFC 8011, B.1.5). */
function answerOf(login: TransferLogin, message: Message): Message {
  const { statusCode = '' } = message;
  if (statusCode.startsWith('successful')) return message;
  if (/not-authenticated|not-authorized|forbidden/.test(statusCode)) throw refusedSignIn(login);
  if (statusCode.startsWith('server-error'))
    throw new StepFailed('connection', `${login.name} takes no jobs now (${statusCode}).`);
  const sentence = `${login.name} refused this (${statusCode || 'without a reason'}); check its address and its paper.`;
  throw new ProblemError({ code: 'plot.refused', sentence, place: {} });
}

function refusedSignIn({ name, user }: TransferLogin): StepFailed {
  const sentence = `${name} refused to sign in ${user || 'nobody'}; check the user name and the password.`;
  return new StepFailed('sign-in', sentence);
}

function away({ address }: TransferLogin, { message }: Error): StepFailed {
  const { host, port } = partsOf(address);
  return new StepFailed('connection', `${host}:${port} does not answer as a plotter (${message}).`);
}
