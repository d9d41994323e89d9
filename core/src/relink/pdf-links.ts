import {
  PDFArray,
  PDFDict,
  PDFHexString,
  PDFName,
  PDFRawStream,
  PDFRef,
  PDFString,
  type PDFDocument,
  type PDFObject,
} from '@cantoo/pdf-lib';
import { textString } from '../pdf/syntax';
import type { Outcome } from '../problem';
import { openPdf } from '../read/pdf/open';
import { withUpdate } from './incremental-update';

const [S, F, UF, URI, WIN] = ['S', 'F', 'UF', 'URI', 'Win'].map((name) => PDFName.of(name)) as [
  PDFName,
  PDFName,
  PDFName,
  PDFName,
  PDFName,
];
/** A place in a file that an address may add behind its name. */
const PLACE = /[#?].*$/;
const [PDF, SCHEME] = [/\.pdf$/i, /^[a-z][a-z0-9+.-]*:/i];
/** The scheme of addresses on the same machine, with the host that they mostly leave out, up to a drive (RFC 8089). */
const FILE_SCHEME = /^file:(\/\/[^/]*)?(\/(?=[a-z]:))?/i;

/** The files that links of a PDF lead to, each once, as written there. */
export async function linksIn(bytes: Uint8Array, name: string): Promise<Outcome<string[]>> {
  const opened = await openUnprotected(bytes, name);
  if (!opened.ok) return opened;
  const document = opened.value;
  const found = new Set<string>();
  for (const [, object] of document.context.enumerateIndirectObjects()) {
    eachAction(object, (action) => {
      const target = targetOf(action, document);
      if (target !== undefined) found.add(target);
    });
  }
  return { ok: true, value: [...found] };
}

/**
 * A PDF whose links lead elsewhere: `changes` by what they say now. What was there stays byte for byte, and the changed
 * objects are added behind it (ISO 32000-2, 7.5.6). The same bytes where nothing changes.
 */
export async function relinked(
  bytes: Uint8Array,
  name: string,
  changes: ReadonlyMap<string, string>,
): Promise<Outcome<Uint8Array>> {
  const opened = await openUnprotected(bytes, name);
  if (!opened.ok) return opened;
  const document = opened.value;
  const changed: [PDFRef, PDFObject][] = [];
  for (const [reference, object] of document.context.enumerateIndirectObjects()) {
    let any = false;
    eachAction(object, (action) => {
      const to = changes.get(targetOf(action, document) ?? '');
      if (to === undefined) return;
      setTarget(action, to, document);
      any = true;
    });
    if (any) changed.push([reference, object]);
  }
  return { ok: true, value: changed.length === 0 ? bytes : withUpdate(bytes, document, changed) };
}

/** What is added to a protected file would have to be enciphered as it is. */
async function openUnprotected(bytes: Uint8Array, name: string): Promise<Outcome<PDFDocument>> {
  const opened = await openPdf(bytes, name);
  if (!opened.ok) return opened;
  const { document, wasEncrypted } = opened.value;
  // The library makes something of nearly everything; without a root there is no document.
  if (!document.context.trailerInfo.Root) {
    const sentence = `${name} is damaged, and its links cannot be read; ask for it again.`;
    return { ok: false, problem: { code: 'relink.damaged', sentence, place: { file: name } } };
  }
  if (!wasEncrypted) return { ok: true, value: document };
  const sentence = `${name} is protected, and its links cannot be changed; ask for it without protection.`;
  return { ok: false, problem: { code: 'relink.protected', sentence, place: { file: name } } };
}

/** Every action to another file or address within an object; not in those that it refers to. */
function eachAction(object: PDFObject, act: (action: PDFDict) => void): void {
  if (object instanceof PDFRawStream) return;
  if (object instanceof PDFArray) {
    for (const item of object.asArray()) eachAction(item, act);
  } else if (object instanceof PDFDict) {
    const kind = object.get(S)?.toString();
    if (kind === '/GoToR' || kind === '/Launch' || kind === '/URI') act(object);
    for (const value of object.values()) eachAction(value, act);
  }
}

/** The PDF that an action leads to; undefined for addresses on the web, for other files and for what names none. */
function targetOf(action: PDFDict, document: PDFDocument): string | undefined {
  if (isAddress(action)) {
    const path = textOf(action.get(URI), document)?.replace(PLACE, '');
    if (path === undefined || !PDF.test(path)) return undefined;
    if (FILE_SCHEME.test(path)) return decoded(path.replace(FILE_SCHEME, ''));
    return SCHEME.test(path) ? undefined : decoded(path);
  }
  const path = specified(action, document) ?? specified(windowsPart(action, document), document);
  return path !== undefined && PDF.test(path) ? path : undefined;
}

function isAddress(action: PDFDict): boolean {
  return action.get(S)?.toString() === '/URI';
}

/** What a launch action states for Windows alone (ISO 32000-2, table 207). */
function windowsPart(action: PDFDict, { context }: PDFDocument): PDFDict | undefined {
  const said = action.get(WIN);
  const value = said instanceof PDFRef ? context.lookup(said) : said;
  return value instanceof PDFDict ? value : undefined;
}

/** The file that `F` specifies: a text, or a dictionary with names of its own. */
function specified(action: PDFDict | undefined, document: PDFDocument): string | undefined {
  const said = action?.get(F);
  const value = said instanceof PDFRef ? document.context.lookup(said) : said;
  return value instanceof PDFDict ? textOf(value.get(UF) ?? value.get(F), document) : textOf(value, document);
}

function textOf(object: PDFObject | undefined, { context }: PDFDocument): string | undefined {
  const value = object instanceof PDFRef ? context.lookup(object) : object;
  return value instanceof PDFString || value instanceof PDFHexString ? value.decodeText() : undefined;
}

function setTarget(action: PDFDict, to: string, document: PDFDocument): void {
  if (isAddress(action)) {
    const place = PLACE.exec(textOf(action.get(URI), document) ?? '')?.[0] ?? '';
    action.set(URI, PDFString.of(escaped(encoded(to) + place)));
    return;
  }
  setSpecified(action, to, document);
  const windows = windowsPart(action, document);
  if (!windows?.has(F)) return;
  // It may serve several links, too.
  const own = windows.clone(document.context);
  setSpecified(own, to, document);
  action.set(WIN, own);
}

function setSpecified(action: PDFDict, to: string, { context }: PDFDocument): void {
  const said = action.get(F);
  const value = said instanceof PDFRef ? context.lookup(said) : said;
  const text = (): PDFString | PDFHexString => {
    const made = textString(to);
    return made.startsWith('(') ? PDFString.of(made.slice(1, -1)) : PDFHexString.of(made.slice(1, -1));
  };
  if (!(value instanceof PDFDict)) return action.set(F, text());
  // A specification that is an object of its own may serve several links: this one gets its own.
  const own = said instanceof PDFRef ? value.clone(context) : value;
  own.set(F, text());
  if (own.has(UF)) own.set(UF, text());
  action.set(F, own);
}

/** A path as an address (RFC 3986): what would begin a query or a place within the file is encoded, too. */
function encoded(path: string): string {
  return encodeURI(path).replace(/[#?]/g, encodeURIComponent);
}

function escaped(text: string): string {
  return text.replace(/[\\()]/g, '\\$&');
}

function decoded(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}
