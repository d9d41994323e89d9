import type { Attributes, Message, Value } from '@sealsystems/ipp';
import { isOver, type PlotQueue, type QueuedJob } from './plot-queue';

/** Its unprintable margin, as large as that of usual roll plotters (common practice), mm. */
const MARGIN_MM = 5;
/** Units of sizes on the wire to the millimetre (PWG 5100.7, `media-size`). */
const UNITS = 100;
/** How much of a roll a job takes that says nothing of its paper, mm. */
const USUAL_LENGTH = 297;
const VERSIONS = ['1.1', '2.0'];
const OPERATIONS = [
  ...['Print-Job', 'Validate-Job', 'Create-Job', 'Send-Document', 'Cancel-Job'],
  ...['Get-Job-Attributes', 'Get-Jobs', 'Get-Printer-Attributes'],
];
const FORMATS = ['application/pdf', 'application/octet-stream'];

/** What the plotter is called and where it is asked. */
export interface Identity {
  uri: string;
  /** Address of its page. */
  moreInfo: string;
  name: string;
  /** Since it was started, s. */
  upTime: number;
}

/** Documents that are to come for jobs that were created before them, by the ids that they will have. */
export type Awaited = Map<number, Message>;

/** What came with a request. */
export interface Document {
  pdf: Buffer;
  pages: number;
}

/** Answers a request as a plotter with this queue does (RFC 8011, 4). */
export function answer(
  queue: PlotQueue,
  request: Message,
  document: Document,
  { identity, awaited }: { identity: Identity; awaited: Awaited },
): Message {
  const asked = request['operation-attributes-tag'] ?? {};
  const reply = (statusCode: string, more: Partial<Message> = {}): Message => ({
    version: VERSIONS.includes(request.version ?? '') ? request.version! : VERSIONS.at(-1)!,
    statusCode,
    id: request.id ?? 0,
    'operation-attributes-tag': { 'attributes-charset': 'utf-8', 'attributes-natural-language': 'en' },
    ...more,
  });
  if (!VERSIONS.includes(request.version ?? '')) return reply('server-error-version-not-supported');
  // Ids begin with 1 (RFC 8011, 4.1.1).
  if (!request.id) return reply('client-error-bad-request');
  const ok = (more: Partial<Message> = {}): Message => reply('successful-ok', more);
  const [first, second] = Object.keys(asked);
  if (first !== 'attributes-charset' || second !== 'attributes-natural-language')
    return reply('client-error-bad-request');
  if (!asked['printer-uri'] && !asked['job-uri']) return reply('client-error-bad-request');
  const format = asked['document-format'];
  if (typeof format === 'string' && !FORMATS.includes(format))
    return reply('client-error-document-format-not-supported');
  const wanted = keywordsOf(asked['requested-attributes']);
  const job = queue.jobs.find(({ id }) => id === jobIdOf(asked));
  switch (request.operation) {
    case 'Get-Printer-Attributes':
      return ok({
        'printer-attributes-tag': only(printerAttributes(queue, identity), wanted, ['printer-description']),
      });
    case 'Validate-Job':
      return ok();
    case 'Print-Job':
      return ok({ 'job-attributes-tag': jobAttributes(queue.add(jobOf(queue, request, document)), identity) });
    case 'Create-Job': {
      const id = queue.jobs.length + awaited.size + 1;
      awaited.set(id, request);
      return ok({
        'job-attributes-tag': {
          ...link(id, identity),
          'job-state': 'pending-held',
          'job-state-reasons': 'job-incoming',
        },
      });
    }
    case 'Send-Document': {
      const created = awaited.get(jobIdOf(asked) ?? 0);
      if (!created) return reply('client-error-not-found');
      if (asked['last-document'] === undefined) return reply('client-error-bad-request');
      awaited.delete(jobIdOf(asked)!);
      return ok({ 'job-attributes-tag': jobAttributes(queue.add(jobOf(queue, created, document)), identity) });
    }
    case 'Get-Job-Attributes':
      if (!job) return reply('client-error-not-found');
      return ok({ 'job-attributes-tag': only(jobAttributes(job, identity), wanted, ['job-description']) });
    case 'Get-Jobs': {
      const isWanted = (one: QueuedJob): boolean =>
        isOver(one) === (asked['which-jobs'] === 'completed') &&
        (asked['my-jobs'] !== true || one.user === userOf(asked));
      const listed = queue.jobs.filter(isWanted);
      // The most recently completed one comes first (RFC 8011, 4.2.6.2).
      if (asked['which-jobs'] === 'completed') listed.reverse();
      const found = listed.slice(0, Number(asked['limit'] ?? Infinity));
      const few = wanted.length === 0 ? ['job-uri', 'job-id'] : wanted;
      const jobs = found.map((one) => only(jobAttributes(one, identity), few, ['job-description']));
      return ok(jobs.length > 0 ? { 'job-attributes-tag': jobs } : {});
    }
    case 'Cancel-Job':
      if (awaited.delete(jobIdOf(asked) ?? 0)) return ok();
      if (!job) return reply('client-error-not-found');
      return queue.cancel(job.id) ? ok() : reply('client-error-not-possible');
    default:
      return reply('server-error-operation-not-supported');
  }
}

/** A request as a job; one that says nothing of its paper is printed on what there is. */
function jobOf(
  { media: [first] }: PlotQueue,
  { 'operation-attributes-tag': asked = {}, ...request }: Message,
  { pdf, pages }: Document,
) {
  const template = (request['job-attributes-tag'] ?? {}) as Attributes;
  const size = ((template['media-col'] as Attributes | undefined)?.['media-size'] ?? {}) as Attributes;
  const usual = [first?.width ?? 0, first?.kind === 'sheet' ? first.height : USUAL_LENGTH];
  const [width, length] = (['x-dimension', 'y-dimension'] as const).map((side, i) =>
    typeof size[side] === 'number' ? size[side] / UNITS : usual[i]!,
  ) as [number, number];
  return {
    name: String(asked['job-name'] ?? 'Untitled'),
    user: userOf(asked),
    ...{ width, length, pdf, pieces: pages * Number(template['copies'] ?? 1) },
    isGrey: template['print-color-mode'] === 'monochrome',
  };
}

function userOf(asked: Attributes): string {
  return String(asked['requesting-user-name'] ?? 'anonymous');
}

function link(id: number, { uri }: Identity): Attributes {
  return { 'job-id': id, 'job-uri': `${uri}/jobs/${id}` };
}

function jobAttributes(job: QueuedJob, identity: Identity): Attributes {
  const stopped = job.state === 'processing-stopped' ? 'printer-stopped' : 'none';
  return {
    ...link(job.id, identity),
    ...{ 'job-printer-uri': identity.uri, 'job-name': job.name, 'job-originating-user-name': job.user },
    ...{ 'job-state': job.state, 'job-state-reasons': stopped },
    ...{ 'job-media-sheets': job.pieces, 'job-media-sheets-completed': job.printed },
    ...{ 'time-at-creation': 1, 'time-at-processing': 1, 'time-at-completed': isOver(job) ? 1 : 0 },
    'job-printer-up-time': identity.upTime,
  };
}

function printerAttributes(queue: PlotQueue, { uri, moreInfo, name, upTime }: Identity): Attributes {
  const { state, reasons, media, jobs } = queue;
  const ready = media
    .filter(({ leftMm }) => leftMm > 0)
    .map((medium) =>
      medium.kind === 'roll'
        ? `roll_loaded_${medium.width}x0mm`
        : `iso_${medium.name.toLowerCase()}_${medium.width}x${medium.height}mm`,
    );
  return {
    ...{ 'printer-uri-supported': uri, 'uri-security-supported': 'none', 'uri-authentication-supported': 'none' },
    ...{
      'printer-name': name,
      'printer-info': name,
      'printer-location': '',
      'printer-more-info': moreInfo,
      'printer-make-and-model': 'Folvex stand-in plotter',
    },
    ...{ 'printer-state': state, 'printer-state-reasons': reasons.length > 0 ? reasons : 'none' },
    ...{ 'printer-is-accepting-jobs': true, 'queued-job-count': jobs.filter((job) => !isOver(job)).length },
    ...{ 'printer-up-time': upTime, 'ipp-versions-supported': VERSIONS, 'operations-supported': OPERATIONS },
    ...{ 'charset-configured': 'utf-8', 'charset-supported': 'utf-8', 'natural-language-configured': 'en' },
    ...{ 'generated-natural-language-supported': 'en', 'pdl-override-supported': 'attempted' },
    ...{ 'document-format-default': 'application/octet-stream', 'document-format-supported': FORMATS },
    ...{
      'compression-supported': 'none',
      'multiple-document-jobs-supported': false,
      'multiple-operation-time-out': 60,
    },
    ...{ 'color-supported': true, 'print-color-mode-supported': ['color', 'monochrome'] },
    ...(ready.length > 0 && { 'media-ready': ready, 'media-supported': ready }),
    ...Object.fromEntries(
      ['top', 'bottom', 'left', 'right'].map((edge) => [`media-${edge}-margin-supported`, MARGIN_MM * UNITS]),
    ),
  };
}

/** The attributes that were asked for: by name, all of them, or as a group (RFC 8011, 4.2.5.1). */
function only(attributes: Attributes, wanted: readonly string[], groups: readonly string[]): Attributes {
  if (wanted.length === 0 || wanted.includes('all') || groups.some((group) => wanted.includes(group)))
    return attributes;
  return Object.fromEntries(Object.entries(attributes).filter(([name]) => wanted.includes(name)));
}

function keywordsOf(value: Value | undefined): string[] {
  return value === undefined ? [] : ([value].flat() as string[]);
}

function jobIdOf(asked: Attributes): number | undefined {
  if (typeof asked['job-id'] === 'number') return asked['job-id'];
  const uri = asked['job-uri'];
  return typeof uri === 'string' ? Number(/\d+$/.exec(uri)?.[0]) : undefined;
}
