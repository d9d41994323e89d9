import {
  PDFArray,
  PDFDict,
  PDFName,
  PDFNumber,
  PDFRef,
  PDFStream,
  type PDFDocument,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { multiply, scaling, translation, type Affine } from '../../geometry/affine';
import { mappedBox, type Box } from '../../geometry/box';

/** What is on a page besides its content: fields of forms, and comments and marks of readers (ISO 32000-2, 12.5.6). */
export type AnnotationKind = 'field' | 'comment';

/** Flags of annotations that are not seen: hidden, and not for the screen (ISO 32000-2, table 167). */
const UNSEEN = 0x2 | 0x20;
const WHOLE: Affine = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** The kind of an annotation; undefined for links, and for windows that open on others. */
export function kindOf(annotation: PDFDict): AnnotationKind | undefined {
  const subtype = annotation.lookupMaybe(PDFName.of('Subtype'), PDFName)?.asString();
  if (subtype === '/Link' || subtype === '/Popup') return undefined;
  return subtype === '/Widget' ? 'field' : 'comment';
}

/** The annotations of a page that are seen. */
export function annotationsOn(page: PDFPage): PDFDict[] {
  const list = page.node.Annots();
  if (!list) return [];
  return Array.from({ length: list.size() }, (_, i) => list.lookupMaybe(i, PDFDict)).filter(
    (note): note is PDFDict => note !== undefined && (numberOf(note, 'F') & UNSEEN) === 0,
  );
}

/** True where the file says what an annotation looks like. */
export function isDrawn(annotation: PDFDict): boolean {
  return drawnBy(annotation) !== undefined;
}

/** Draws annotations of a kind into the content of a page, on top of it, and removes them from the page. Returns how many. */
export function mergeAnnotations(document: PDFDocument, page: PDFPage, kind: AnnotationKind): number {
  const operators: string[] = [];
  const merged = new Set<PDFDict>();
  for (const annotation of annotationsOn(page)) {
    const drawn = kindOf(annotation) === kind ? drawnBy(annotation) : undefined;
    if (!drawn) continue;
    merged.add(annotation);
    const { reference, stream, map } = drawn;
    stream.dict.set(PDFName.of('Subtype'), PDFName.of('Form'));
    const name = freeName(page);
    page.node.setXObject(name, reference);
    operators.push(`q ${[map.a, map.b, map.c, map.d, map.e, map.f].join(' ')} cm ${name.toString()} Do Q`);
  }
  if (merged.size === 0) return 0;
  const { context } = document;
  const stream = (text: string): PDFRef => context.register(context.stream(text));
  // What the page's own content leaves behind in the graphics state must not move what comes after it.
  page.node.wrapContentStreams(stream('q\n'), stream('\nQ\n'));
  page.node.addContentStream(stream(`${operators.join('\n')}\n`));
  const list = page.node.Annots()!;
  for (let i = list.size() - 1; i >= 0; i--) {
    const annotation = list.lookupMaybe(i, PDFDict);
    if (annotation && merged.has(annotation)) list.remove(i);
  }
  return merged.size;
}

/** A name that no picture or form of a page has. Those that the library makes come again in the next file. */
function freeName(page: PDFPage): PDFName {
  const { XObject } = page.node.normalizedEntries();
  let count = 1;
  while (XObject.has(PDFName.of(`Merged${count}`))) count++;
  return PDFName.of(`Merged${count}`);
}

interface Drawn {
  reference: PDFRef;
  stream: PDFStream;
  /** Where its appearance goes on the page. */
  map: Affine;
}

function drawnBy(annotation: PDFDict): Drawn | undefined {
  const appearance = appearanceOf(annotation);
  const map = appearance && placeOf(annotation, appearance.stream.dict);
  return map && { ...appearance, map };
}

/** The stream of how an annotation looks now (ISO 32000-2, 12.5.5). */
function appearanceOf(annotation: PDFDict): Omit<Drawn, 'map'> | undefined {
  const normal = annotation.lookupMaybe(PDFName.of('AP'), PDFDict)?.get(PDFName.of('N'));
  const { context } = annotation;
  const found = normal instanceof PDFRef ? context.lookup(normal) : normal;
  const state = annotation.lookupMaybe(PDFName.of('AS'), PDFName) ?? PDFName.of('Off');
  const reference = found instanceof PDFDict ? found.get(state) : normal;
  const stream = reference instanceof PDFRef ? context.lookup(reference) : undefined;
  return reference instanceof PDFRef && stream instanceof PDFStream ? { reference, stream } : undefined;
}

/** Maps an appearance, after its own matrix, to the rectangle of its annotation (ISO 32000-2, 12.5.5, algorithm 8). */
function placeOf(annotation: PDFDict, appearance: PDFDict): Affine | undefined {
  const [rectangle, box] = [boxOf(annotation, 'Rect'), boxOf(appearance, 'BBox')];
  if (!rectangle || !box) return undefined;
  const [a, b, c, d, e, f] = numbersOf(appearance, 'Matrix') ?? [];
  const matrix = f === undefined ? WHOLE : { a: a!, b: b!, c: c!, d: d!, e: e!, f };
  const { xmin, ymin, xmax, ymax } = mappedBox(matrix, box);
  if (!(xmax > xmin && ymax > ymin)) return undefined;
  const across = (rectangle.xmax - rectangle.xmin) / (xmax - xmin);
  const up = (rectangle.ymax - rectangle.ymin) / (ymax - ymin);
  const sized = multiply({ ...scaling(1), a: across, d: up }, translation(-xmin, -ymin));
  return multiply(translation(rectangle.xmin, rectangle.ymin), sized);
}

function boxOf(dictionary: PDFDict, name: string): Box | undefined {
  const [x0, y0, x1, y1] = numbersOf(dictionary, name) ?? [];
  if (y1 === undefined) return undefined;
  return { xmin: Math.min(x0!, x1!), ymin: Math.min(y0!, y1), xmax: Math.max(x0!, x1!), ymax: Math.max(y0!, y1) };
}

function numbersOf(dictionary: PDFDict, name: string): number[] | undefined {
  const list = dictionary.lookup(PDFName.of(name));
  if (!(list instanceof PDFArray)) return undefined;
  const numbers = Array.from({ length: list.size() }, (_, i) => list.lookup(i));
  return numbers.every((one) => one instanceof PDFNumber)
    ? numbers.map((one) => (one as PDFNumber).asNumber())
    : undefined;
}

function numberOf(dictionary: PDFDict, name: string): number {
  const value = dictionary.lookup(PDFName.of(name));
  return value instanceof PDFNumber ? value.asNumber() : 0;
}
