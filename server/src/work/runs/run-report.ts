import type { Delivered, DeliveryInfo } from '@folvex/contract';
import { FORMATS, type Proof } from '@folvex/core';
import type { Database } from '../../data/database';
import { deliveriesOf } from '../../data/deliveries';
import { csvOf } from '../csv';
import { workbook } from '../workbook';
import { runById, runFilesOf, runSheetsOf } from '../../data/runs';

/** What a run did, file by file and sheet by sheet. */
export interface RunReport {
  run: string;
  package: string;
  state: string;
  started: string;
  finished: string | null;
  files: {
    path: string;
    format: string;
    pages: number;
    bytes: number;
    started: string | null;
    milliseconds: number | null;
    sha256: string;
    outcome: string;
    proof: Proof | null;
  }[];
  /** A line for each file of each delivery. */
  deliveries: {
    destination: string;
    state: string;
    path: string;
    outcome: string;
    /** As the destination tells it; null where it did not arrive. */
    bytes: number | null;
    /** `SHA-256 7692…` as the destination reports it; null where it reports none. */
    hash: string | null;
    at: string | null;
  }[];
  sheets: {
    number: string;
    title: string;
    outcome: string;
    started: string | null;
    milliseconds: number | null;
    worker: string | null;
    problem: string | null;
  }[];
  totals: { files: number; pages: number; bytes: number; failedSheets: number };
}

/** The report of a run; undefined where there is no such run. */
export async function runReport(db: Database, id: string): Promise<RunReport | undefined> {
  const run = await runById(db, id);
  if (!run) return undefined;
  const [files, sheets] = [await runFilesOf(db, id), await runSheetsOf(db, id)];
  const sent = (await deliveriesOf(db, [id])).get(id) ?? [];
  const sheetOf = new Map(run.input.sheets.map((sheet) => [sheet.id, sheet]));
  return {
    ...{ run: id, package: run.packageName, state: run.state },
    started: run.createdAt.toISOString(),
    finished: run.finishedAt?.toISOString() ?? null,
    files: files.map(({ path, format, pages, bytes, startedAt, milliseconds, hash, proof }) => ({
      ...{ path, format: FORMATS[format ?? 'pdf'].name, pages, bytes, milliseconds, sha256: hash, proof },
      started: startedAt?.toISOString() ?? null,
      outcome: outcomeOf(proof),
    })),
    deliveries: sent.flatMap((delivery) => deliveryLines(delivery, files)),
    sheets: sheets.map(({ sheetId, state, startedAt, milliseconds, worker, problem }) => ({
      number: sheetOf.get(sheetId)?.number ?? '',
      title: sheetOf.get(sheetId)?.title ?? '',
      ...{ outcome: state === 'done' && worker === null ? 'made before' : state, milliseconds, worker },
      started: startedAt?.toISOString() ?? null,
      problem: problem?.sentence ?? null,
    })),
    totals: {
      files: files.length,
      pages: files.reduce((sum, file) => sum + file.pages, 0),
      bytes: files.reduce((sum, file) => sum + file.bytes, 0),
      failedSheets: sheets.filter(({ state }) => state === 'failed').length,
    },
  };
}

function outcomeOf(proof: Proof | null): string {
  if (!proof) return 'written, not yet read again';
  if (proof.unread) return `written; not read again: ${proof.unread}`;
  return proof.differences.length === 0
    ? 'written, and as it should be'
    : `written, but differs: ${proof.differences.join(' ')}`;
}

function deliveryLines(
  { location, state, problem, receipts }: DeliveryInfo,
  files: readonly { path: string }[],
): RunReport['deliveries'] {
  const to = { destination: location ?? 'not reached', state };
  return files.map(({ path }, file) => {
    const receipt = receipts.find((one) => one.file === file);
    if (!receipt) return { ...to, path, outcome: problem?.sentence ?? 'not sent', bytes: null, hash: null, at: null };
    const { outcome, at } = receipt;
    return {
      ...to,
      path,
      outcome: deliveredInWords(outcome),
      bytes: 'path' in outcome ? (outcome.bytes ?? null) : null,
      hash: 'path' in outcome && outcome.hash ? `${outcome.hash.algorithm} ${outcome.hash.hex}` : null,
      at,
    };
  });
}

function deliveredInWords(delivered: Delivered): string {
  if ('problem' in delivered) return delivered.problem.sentence;
  const { how, path, older } = delivered;
  return older === undefined ? `${how}: ${path}` : `${how}: ${path}; the older file is now ${older}`;
}

const FILE_HEADINGS = ['Path', 'Format', 'Pages', 'Bytes', 'Started', 'Milliseconds', 'SHA-256', 'Outcome'];

function fileRows({ files }: RunReport): (string | number)[][] {
  return files.map(({ path, format, pages, bytes, started, milliseconds, sha256, outcome }) => [
    ...[path, format, pages, bytes, started ?? '', milliseconds ?? '', sha256, outcome],
  ]);
}

const DELIVERY_HEADINGS = ['Destination', 'State', 'Path', 'Outcome', 'Bytes', 'Hash at destination', 'Time'];

function deliveryRows({ deliveries }: RunReport): (string | number)[][] {
  return deliveries.map(({ destination, state, path, outcome, bytes, hash, at }) => [
    ...[destination, state, path, outcome, bytes ?? '', hash ?? '', at ?? ''],
  ]);
}

/** A line for each file, then one for each file of each delivery. */
export function reportCsv(report: RunReport): string {
  const delivered = deliveryRows(report);
  return csvOf([
    ...[FILE_HEADINGS, ...fileRows(report)],
    ...(delivered.length > 0 ? [[], DELIVERY_HEADINGS, ...delivered] : []),
  ]);
}

const SHEET_HEADINGS = ['Sheet', 'Title', 'Outcome', 'Started', 'Milliseconds', 'Worker', 'Problem'];

/** Files, deliveries and sheets, a page each. */
export function reportWorkbook(report: RunReport): Promise<Uint8Array> {
  const sheets = report.sheets.map(({ number, title, outcome, started, milliseconds, worker, problem }) => [
    ...[number, title, outcome, started, milliseconds, worker, problem],
  ]);
  return workbook([
    { name: 'Files', rows: [FILE_HEADINGS, ...fileRows(report)], boldRows: [0], widths: [48] },
    ...(report.deliveries.length > 0
      ? [
          {
            name: 'Deliveries',
            rows: [DELIVERY_HEADINGS, ...deliveryRows(report)],
            boldRows: [0],
            widths: [40, 12, 48],
          },
        ]
      : []),
    { name: 'Sheets', rows: [SHEET_HEADINGS, ...sheets], boldRows: [0], widths: [14, 40] },
  ]);
}
