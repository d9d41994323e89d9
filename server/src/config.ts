import { isIP } from 'node:net';
import { cpus } from 'node:os';
import { join, resolve } from 'node:path';
import type { BucketSettings } from '@folvex/press/bucket';
import type { StoreSettings } from './files/open-store';
import type { Retention } from './data/retention';
import { isLoopback } from './model/loopback';
import type { ScheduleRules } from './model/schedule-rules';
import type { OpenIdSettings } from './work/access/open-id';
import { limitsFrom, type PressLimits } from '@folvex/press';

/** The configuration that the server and the worker read from their environment. */
export interface ServerConfig extends StoreSettings {
  databaseUrl: string;
  /** Packages are delivered below it. */
  deliveryFolder: string;
  /** Inboxes of this machine are below it. */
  inboxFolder: string;
  host: string;
  /** Host names that it answers to besides loopback ones, in lower case. */
  names: ReadonlySet<string>;
  port: number;
  /** The address that people of an office open, without a slash at its end; undefined: Folvex serves this machine only. */
  officeUrl: string | undefined;
  /** Addresses of trusted proxies, besides those of this machine. */
  proxies: string[];
  /** Signs sessions; undefined: a key of this machine does. */
  sessionKey: string | undefined;
  /** Seals passwords of transfer servers; undefined: a key of this machine does. */
  secretsKey: string | undefined;
  openId: OpenIdSettings | undefined;
  schedules: ScheduleRules;
  threads: number;
  /** What each thread may use for one task. */
  limits: PressLimits;
  /** A worker without a heartbeat for this long loses its jobs to others. */
  leaseSeconds: number;
  /** What a project may use of the store, bytes; undefined: as much as there is. */
  maxProjectBytes: number | undefined;
  /** How long what nobody needs is kept. */
  retention: Retention;
  migrations: string;
  webFolder: string | undefined;
  demoJob: string | undefined;
  /** File of servers, and a package that is sent to them, that come with it. */
  demoPartners: string | undefined;
  threadFile: string;
}

/**
 * Throws an error with a sentence where settings are wrong or contradict each other. `threadFile`: the built code of the
 * worker threads, in the same folder as the process that starts them.
 */
export function configFrom(environment: NodeJS.ProcessEnv, threadFile: string): ServerConfig {
  const {
    DATABASE_URL,
    FOLVEX_DATA,
    FOLVEX_DELIVERY,
    FOLVEX_INBOX,
    FOLVEX_QUIET_MINUTES,
    FOLVEX_HOST,
    FOLVEX_NAMES,
    FOLVEX_URL,
    FOLVEX_PROXIES,
    FOLVEX_SESSION_KEY,
    FOLVEX_SECRETS_KEY,
    FOLVEX_PORT,
    FOLVEX_THREADS,
    FOLVEX_WEB,
    FOLVEX_DEMO,
    FOLVEX_DEMO_PARTNERS,
    FOLVEX_MIGRATIONS,
    FOLVEX_LEASE_SECONDS,
    FOLVEX_CACHE_MB,
    FOLVEX_PROJECT_GB,
    FOLVEX_KEEP_REMOVED_DAYS,
    FOLVEX_KEEP_RUNS_DAYS,
  } = environment;
  const host = FOLVEX_HOST ?? '127.0.0.1';
  const port = Number(FOLVEX_PORT ?? 4780);
  const names = entriesOf(FOLVEX_NAMES);
  const proxies = entriesOf(FOLVEX_PROXIES);
  const noAddress = proxies.find((proxy) => !isRange(proxy));
  if (noAddress !== undefined)
    throw new Error(`FOLVEX_PROXIES names ${noAddress}, which is no IP address and no range such as 10.0.0.0/8.`);
  if (FOLVEX_URL === undefined && (names.length > 0 || !isLoopback(host)))
    throw new Error(
      'FOLVEX_HOST and FOLVEX_NAMES are for an office: set FOLVEX_URL to the address that people open, such as https://plans.office.example.',
    );
  if (FOLVEX_URL !== undefined && !URL.canParse(FOLVEX_URL))
    throw new Error(`FOLVEX_URL is no address: ${FOLVEX_URL}; it has the form https://plans.office.example.`);
  return {
    databaseUrl: DATABASE_URL ?? '',
    dataFolder: resolve(FOLVEX_DATA ?? '.folvex'),
    bucket: bucketFrom(environment),
    maxCacheBytes: Number(FOLVEX_CACHE_MB ?? 20_000) * 1e6,
    deliveryFolder: resolve(FOLVEX_DELIVERY ?? join(FOLVEX_DATA ?? '.folvex', 'delivered')),
    inboxFolder: resolve(FOLVEX_INBOX ?? join(FOLVEX_DATA ?? '.folvex', 'inbox')),
    host,
    port,
    names: new Set([...names, ...(FOLVEX_URL === undefined ? [] : [new URL(FOLVEX_URL).hostname])]),
    officeUrl: FOLVEX_URL?.replace(/\/+$/, ''),
    proxies,
    sessionKey: FOLVEX_SESSION_KEY,
    secretsKey: FOLVEX_SECRETS_KEY,
    openId: openIdFrom(environment),
    schedules: {
      zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
      quietMinutes: Number(FOLVEX_QUIET_MINUTES ?? 10),
    },
    threads: Number(FOLVEX_THREADS ?? cpus().length),
    limits: limitsFrom(environment),
    retention: {
      removedDays: Number(FOLVEX_KEEP_REMOVED_DAYS ?? 30),
      runDays: FOLVEX_KEEP_RUNS_DAYS ? Number(FOLVEX_KEEP_RUNS_DAYS) : undefined,
      artifactDays: 30,
    },
    maxProjectBytes: FOLVEX_PROJECT_GB ? Number(FOLVEX_PROJECT_GB) * 1e9 : undefined,
    leaseSeconds: Number(FOLVEX_LEASE_SECONDS ?? 60),
    migrations: resolve(FOLVEX_MIGRATIONS ?? 'server/drizzle'),
    webFolder: FOLVEX_WEB,
    demoJob: FOLVEX_DEMO,
    demoPartners: FOLVEX_DEMO_PARTNERS,
    threadFile,
  };
}

/** The entries of a list, separated by blanks or commas, in lower case. */
function entriesOf(variable = ''): string[] {
  return variable
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean);
}

/** Whether a text is an IP address, or a range of them in CIDR notation (RFC 4632). */
function isRange(text: string): boolean {
  const [address = '', bits = '0', ...rest] = text.split('/');
  return (
    rest.length === 0 && isIP(address) !== 0 && /^\d+$/.test(bits) && Number(bits) <= (isIP(address) === 4 ? 32 : 128)
  );
}

function openIdFrom({
  FOLVEX_OPENID_ISSUER: issuer,
  FOLVEX_OPENID_CLIENT: clientId,
  FOLVEX_OPENID_SECRET: clientSecret,
  FOLVEX_OPENID_NAME: name,
}: NodeJS.ProcessEnv): OpenIdSettings | undefined {
  if (!issuer || !clientId || !clientSecret) return undefined;
  return { name: name ?? new URL(issuer).hostname, issuer, clientId, clientSecret };
}

/** The bucket of `FOLVEX_BUCKET`; its keys are in the variables that most S3 programs use. */
function bucketFrom({
  FOLVEX_BUCKET: address,
  AWS_REGION: region = 'us-east-1',
  AWS_ACCESS_KEY_ID: accessKeyId,
  AWS_SECRET_ACCESS_KEY: secretAccessKey,
}: NodeJS.ProcessEnv): BucketSettings | undefined {
  if (address === undefined) return undefined;
  const { origin, pathname } = URL.canParse(address) ? new URL(address) : { origin: 'null', pathname: '/' };
  const [bucket = '', ...prefix] = pathname.split('/').filter(Boolean).map(decodeURIComponent);
  if (!/^https?:/.test(origin) || !bucket)
    throw new Error(
      `FOLVEX_BUCKET is no address of a bucket: ${address}; it has the form https://s3.office.example/plans.`,
    );
  if (!accessKeyId || !secretAccessKey)
    throw new Error('FOLVEX_BUCKET needs AWS_ACCESS_KEY_ID and AWS_SECRET_ACCESS_KEY; set both.');
  const begin = prefix.map((part) => `${part}/`).join('');
  return { endpoint: origin, bucket, prefix: begin, region, accessKeyId, secretAccessKey };
}
