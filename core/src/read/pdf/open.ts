import {
  EncryptedPDFError,
  ParseSpeeds,
  PDFDict,
  PDFDocument,
  PDFInvalidObject,
  PDFName,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { POINTS_PER_MM } from '../../measure/units';
import type { PaperSize } from '../../paper/sizes';
import type { Outcome, Problem } from '../../problem';
import { objectsInflateBeyond } from './object-streams';

/** What a PDF may keep its objects in, inflated, bytes: those of large sets have some ten million. */
const MAX_OBJECT_BYTES = 256e6;
const FILTER = PDFName.of('Filter');
const USER_UNIT = PDFName.of('UserUnit');

/** A PDF of others, opened. */
export interface OpenPdf {
  document: PDFDocument;
  /** True where it was encrypted; what is in `document` no longer is. */
  wasEncrypted: boolean;
}

/** What of a page shows, in its own units, and how it is turned to be read. */
export interface PageArea {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Clockwise, degrees: 0, 90, 180 or 270. */
  turn: number;
  /** Points to a unit of the page (ISO 32000-2, 14.11.2). */
  userUnit: number;
}

/** Opens a PDF. One that is encrypted without a password for reading opens too; others need theirs. */
export async function openPdf(
  bytes: Uint8Array,
  name: string,
  password?: string,
  maxObjectBytes = MAX_OBJECT_BYTES,
): Promise<Outcome<OpenPdf>> {
  const place = { file: name };
  if (objectsInflateBeyond(bytes, maxObjectBytes)) {
    const sentence = `The objects of ${name} inflate to more than ${maxObjectBytes / 1e6} MB; print it to a new PDF and add that file.`;
    return { ok: false, problem: { code: 'pdf.inflates', sentence, place } };
  }
  const load = (secret?: string): Promise<PDFDocument> =>
    PDFDocument.load(bytes, {
      updateMetadata: false,
      parseSpeed: ParseSpeeds.Fastest,
      ...(secret !== undefined && { password: secret }),
    });
  try {
    return { ok: true, value: { document: await load(), wasEncrypted: false } };
  } catch (error) {
    if (!(error instanceof EncryptedPDFError)) return { ok: false, problem: { ...unreadable(name), place } };
  }
  try {
    return { ok: true, value: { document: await load(password ?? ''), wasEncrypted: true } };
  } catch {
    const sentence = password
      ? `The password does not open ${name}; type it again, or ask its sender for it.`
      : `${name} is protected by a password; type it to have the file read.`;
    return { ok: false, problem: { code: 'pdf.password', sentence, place } };
  }
}

function unreadable(name: string): Pick<Problem, 'code' | 'sentence'> {
  const sentence = `${name} cannot be read as a PDF; open it in a PDF reader, print it to a new PDF and add that file.`;
  return { code: 'pdf.unreadable', sentence };
}

/** The visible area of a page: its crop box within its media box (ISO 32000-2, 14.11.2). */
export function areaOf(page: PDFPage): PageArea {
  const [media, crop] = [page.getMediaBox(), page.getCropBox()];
  const x = Math.max(media.x, crop.x);
  const y = Math.max(media.y, crop.y);
  const width = Math.min(media.x + media.width, crop.x + crop.width) - x;
  const height = Math.min(media.y + media.height, crop.y + crop.height) - y;
  const unit = Number(page.node.get(USER_UNIT)?.toString() ?? 1);
  const turn = (((Math.round(page.getRotation().angle / 90) * 90) % 360) + 360) % 360 || 0;
  const area = width > 0 && height > 0 ? { x, y, width, height } : media;
  return { ...area, turn, userUnit: unit > 0 ? unit : 1 };
}

/** The paper of a page as it is read, mm. */
export function paperOfPage({ width, height, turn, userUnit }: PageArea): PaperSize {
  const mm = (side: number): number => (side * userUnit) / POINTS_PER_MM;
  return turn % 180 ? { width: mm(height), height: mm(width) } : { width: mm(width), height: mm(height) };
}

/** Writes an encrypted PDF as one that is not: its encryption dictionary must not be copied. */
export async function withoutProtection(document: PDFDocument): Promise<Uint8Array> {
  const { context } = document;
  for (const [reference, object] of context.enumerateIndirectObjects()) {
    const handler = object instanceof PDFDict ? object.get(FILTER)?.toString() : undefined;
    // The old cross-reference stream comes through unread, with its pointer to the security handler.
    if (object instanceof PDFInvalidObject || (handler === '/Standard' && object instanceof PDFDict)) {
      context.delete(reference);
    }
  }
  delete context.trailerInfo.Encrypt;
  return document.save({ updateFieldAppearances: false });
}
