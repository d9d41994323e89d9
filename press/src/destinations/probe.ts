import { randomUUID } from 'node:crypto';
import { lookup } from 'node:dns/promises';
import { connect } from 'node:net';
import { posix } from 'node:path';
import { performance } from 'node:perf_hooks';
import { Readable } from 'node:stream';
import type { WebDAVClientError } from 'webdav';
import { bytesInWords, mediumInWords } from '@folvex/core';
import { BucketAway } from '../files/bucket-away';
import { partsOf, StepFailed, type Scheme, type TransferLogin, type TransferStep } from './transfer-login';
import type { ShownCertificate } from './trust';

const ANSWER_MS = 10_000;

/**
 * Tests a transfer or mail server step by step, up to the first that fails: its name, the connection, the host key (SFTP)
 * or certificate (FTPS, SMTP, IPP), the sign-in; where it takes files, its folder, writing into it, and how much room it
 * has; of a plotter, its paper. Nothing stays there.
 */
export async function probeTransfer(login: TransferLogin): Promise<TransferStep[]> {
  const { scheme, host, port } = partsOf(login.address);
  const steps: TransferStep[] = [];
  let at = performance.now();
  const add = (step: Omit<TransferStep, 'milliseconds'>): void => {
    const now = performance.now();
    steps.push({ ...step, milliseconds: Math.round(now - at) });
    at = now;
  };
  const done: Done = (name, sentence) => add({ name, sentence, ok: true });
  try {
    const { address } = await lookup(host).catch(() => {
      throw new StepFailed('name', `There is no host ${host}; check its name.`);
    });
    done('name', `${host} resolves to ${address}.`);
    await reached(host, port);
    done('connection', `${host} answers on port ${port}.`);
    await PROBES[scheme](login, done);
  } catch (error) {
    if (!(error instanceof StepFailed)) throw error;
    const { step: name, sentence, fingerprint } = error;
    add({ name, sentence, ok: false, ...(fingerprint !== undefined && { fingerprint }) });
  }
  return steps;
}

type Done = (name: TransferStep['name'], sentence: string) => void;

/** The steps from signing in on. Each loads its client when it is used, as destinations do. */
const PROBES: Readonly<Record<Scheme, (login: TransferLogin, done: Done) => Promise<void>>> = {
  sftp: probeSftp,
  ...{ ftp: probeFtp, ftps: probeFtp },
  ...{ https: probeWebDav, http: probeWebDav },
  ...{ s3: probeBucket, 's3+http': probeBucket },
  ...{ smtps: probeMail, smtp: probeMail },
  ...{ ipps: probePlotter, ipp: probePlotter },
};
/** Codes by which a service refuses a key (Amazon S3 API, error responses). */
const KEY_REFUSED: readonly string[] = ['AccessDenied', 'Forbidden', 'InvalidAccessKeyId', 'SignatureDoesNotMatch'];

async function probeSftp(login: TransferLogin, done: Done): Promise<void> {
  const { connectSftp } = await import('./sftp');
  const { client, fingerprint, room, end } = await connectSftp(login);
  try {
    done('host key', `The host key is the accepted one: ${fingerprint}.`);
    done('sign-in', `Signed in as ${login.user}.`);
    const folder = partsOf(login.address).folder || '.';
    const type = await client.exists(folder).catch(() => false as const);
    if (type !== 'd') throw new StepFailed('folder', `There is no folder ${folder}; create it, or change the address.`);
    done('folder', `${folder} is there.`);
    const probe = posix.join(folder, `.folvex-${randomUUID()}`);
    try {
      await client.put(Buffer.from('probe'), probe);
      await client.delete(probe);
    } catch (error) {
      throw new StepFailed('writing', `Nothing can be written to ${folder} (${(error as Error).message}).`);
    }
    done('writing', 'A file was written and removed again.');
    const free = await room(folder);
    if (free !== undefined) done('room', roomInWords(free));
  } finally {
    await end();
  }
}

function roomInWords(bytes: number): string {
  return `${bytesInWords(bytes)} free.`;
}

async function probeFtp(login: TransferLogin, done: Done): Promise<void> {
  const { connectFtp } = await import('./ftp');
  const { client, certificate } = await connectFtp(login);
  try {
    if (certificate) done('certificate', certificateInWords(certificate));
    const warning = certificate ? '' : ' Nothing is encrypted: passwords and drawings can be read on the way.';
    done('sign-in', `Signed in as ${login.user || 'anonymous'}.${warning}`);
    const folder = partsOf(login.address).folder || '/';
    await client.cd(folder).catch(() => {
      throw new StepFailed('folder', `There is no folder ${folder}; create it, or change the address.`);
    });
    done('folder', `${folder} is there.`);
    const probe = posix.join(folder, `.folvex-${randomUUID()}`);
    try {
      await client.uploadFrom(Readable.from(['probe']), probe);
      await client.remove(probe);
    } catch (error) {
      throw new StepFailed('writing', `Nothing can be written to ${folder} (${(error as Error).message}).`);
    }
    done('writing', 'A file was written and removed again.');
  } finally {
    client.close();
  }
}

/** Goes no further than the sign-in: an email that tests writing would reach somebody. */
async function probeMail(login: TransferLogin, done: Done): Promise<void> {
  const { signInToMail } = await import('./mail');
  const certificate = await signInToMail(login);
  if (certificate) done('certificate', certificateInWords(certificate));
  const warning = certificate ? '' : ' Nothing is encrypted: passwords and drawings can be read on the way.';
  done('sign-in', `${login.user ? `Signed in as ${login.user}.` : 'No sign-in is needed.'}${warning}`);
}

async function probePlotter(login: TransferLogin, done: Done): Promise<void> {
  const { plotter, securedPlotter } = await import('./ipp');
  const { certificate } = await securedPlotter(login);
  if (certificate) done('certificate', certificateInWords(certificate));
  const { state, reasons, media } = await plotter(login).facts();
  const more = reasons.length > 0 ? ` (${reasons.join(', ')})` : '';
  const isPlain = !certificate && login.secret !== '';
  const warning = isPlain ? ' The address is without TLS: the password can be read on the way.' : '';
  done('sign-in', `It answers as a plotter, and is ${state}${more}.${warning}`);
  const held = media.map(mediumInWords).join(', ');
  done('paper', held ? `It holds ${held}.` : 'It does not say which paper it holds; state that where you print.');
}

function certificateInWords({ isTrusted, fingerprint }: ShownCertificate): string {
  return isTrusted
    ? 'The certificate is valid, and trusted by this machine.'
    : `The certificate is the accepted one: ${fingerprint}.`;
}

async function probeWebDav(login: TransferLogin, done: Done): Promise<void> {
  const { webDavClient } = await import('./webdav');
  const client = webDavClient(login);
  const failed = (error: unknown): never => {
    const { status, message } = error as WebDAVClientError;
    if (status === 401 || status === 403)
      throw new StepFailed(
        'sign-in',
        `${login.name} refused to sign in ${login.user || 'nobody'}; check the user name and the password.`,
      );
    throw new StepFailed('folder', `The folder cannot be read (${message}); check the address.`);
  };
  await client.getDirectoryContents('/').catch(failed);
  const isPlain = new URL(login.address).protocol === 'http:' && login.secret !== '';
  const warning = isPlain ? ' The address is not https: the password can be read on the way.' : '';
  done('sign-in', login.user ? `Signed in as ${login.user}.${warning}` : 'No sign-in is needed.');
  done('folder', 'The folder is there.');
  const probe = `/.folvex-${randomUUID()}`;
  try {
    await client.putFileContents(probe, 'probe');
    await client.deleteFile(probe);
  } catch (error) {
    throw new StepFailed('writing', `Nothing can be written there (${(error as Error).message}).`);
  }
  done('writing', 'A file was written and removed again.');
  // Not every server knows quotas (RFC 4331).
  const quota = await client.getQuota().catch(() => null);
  if (quota && 'available' in quota && typeof quota.available === 'number') done('room', roomInWords(quota.available));
}

async function probeBucket(login: TransferLogin, done: Done): Promise<void> {
  const { bucketParts, openBucket } = await import('./s3');
  const client = await openBucket(login);
  const { bucket, folder } = bucketParts(login.address);
  const failed = (error: unknown): never => {
    if (!(error instanceof BucketAway)) throw error;
    if (error.code === 'NoSuchBucket')
      throw new StepFailed('folder', `There is no bucket ${bucket}; create it, or change the address.`);
    if (!KEY_REFUSED.includes(error.code))
      throw new StepFailed('connection', `${login.name} does not answer as an S3-compatible service (${error.code}).`);
    throw new StepFailed(
      'sign-in',
      `${login.name} refused to sign in ${login.user || 'nobody'} (${error.code}); check the access key and the secret key.`,
    );
  };
  const probe = posix.join(folder, `.folvex-${randomUUID()}`);
  await client.list(probe).next().catch(failed);
  const isPlain = partsOf(login.address).scheme === 's3+http';
  const warning = isPlain ? ' The address is without TLS: drawings can be read on the way.' : '';
  done('sign-in', `Signed in as ${login.user}.${warning}`);
  done('folder', `The bucket ${bucket} is there.`);
  try {
    await client.writeText(probe, 'probe');
    await client.remove(probe);
  } catch (error) {
    throw new StepFailed('writing', `Nothing can be written to ${bucket} (${(error as BucketAway).code}).`);
  }
  done('writing', 'A file was written and removed again.');
}

function reached(host: string, port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host, port });
    const refuse = (why: string): void => {
      socket.destroy();
      reject(new StepFailed('connection', `${host} does not answer on port ${port} (${why}).`));
    };
    socket.setTimeout(ANSWER_MS, () => refuse('no answer'));
    socket.once('error', ({ message }) => refuse(message));
    socket.once('connect', () => {
      socket.end();
      resolve();
    });
  });
}
