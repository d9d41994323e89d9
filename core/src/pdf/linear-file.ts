import { changedTokens, referencesOf } from './body-tokens';
import type { FileEnd, FileOptions, ObjectWriter, Sink } from './file-writer';
import { latin1 } from './file-writer';
import { hintTables, type FileHints, type PlacedObjects } from './hint-tables';

interface KeptObject {
  /** The object, or what opens its stream: a dictionary without length and end. */
  body: string;
  stream?: Uint8Array;
}

/** Objects by where they go in the file (ISO 32000-2, F.3): the old numbers. */
interface Parts {
  /** For each page, its own objects, the page first; of the first page, all that it uses and the outline. */
  pages: number[][];
  /** What pages after the first share. */
  shared: number[];
  others: number[];
  outline: number[];
  /** Objects by page that it uses. */
  used: Set<number>[];
}

/** So long are the linearization dictionary and the first trailer at most; filled up with spaces. */
const [DICTIONARY_BYTES, TRAILER_BYTES] = [200, 300];

/**
 * Writes a file so that its first page can be shown before the rest has come (ISO 32000-2, annex F). All objects are kept
 * until the end, when their order is known; they stand in the file one by one.
 */
export class LinearFileWriter implements ObjectWriter {
  private readonly objects = new Map<number, KeptObject>();
  private count = 0;

  constructor(
    private readonly sink: Sink,
    private readonly options: FileOptions,
  ) {}

  reserve(): number {
    return ++this.count;
  }

  object(body: string): number {
    const number = this.reserve();
    this.define(number, body);
    return number;
  }

  define(number: number, body: string): void {
    this.objects.set(number, { body });
  }

  stream(entries: string, bytes: Uint8Array, deflated: boolean, number = this.reserve()): number {
    return this.rawStream(`<< ${entries}${deflated ? ' /Filter /FlateDecode' : ''}`, bytes, number);
  }

  rawStream(open: string, bytes: Uint8Array, number: number): number {
    this.objects.set(number, { body: open, stream: bytes });
    return number;
  }

  finish(end: FileEnd): number {
    const parts = partsOf(this.objects, end);
    const { protection } = this.options;
    // Numbers: first what comes last in the file, then what comes first, as its two cross-reference tables want.
    const order = [...parts.pages.slice(1).flat(), ...parts.shared, ...parts.others];
    const numbers = new Map(order.map((old, i) => [old, i + 1]));
    const dictionary = order.length + 1;
    numbers.set(end.root, dictionary + 1);
    const lock = protection ? dictionary + 2 : undefined;
    const hintNumber = (lock ?? dictionary + 1) + 1;
    parts.pages[0]!.forEach((old, i) => numbers.set(old, hintNumber + 1 + i));
    const size = hintNumber + parts.pages[0]!.length + 1;
    const bytesOf = (old: number): Uint8Array => this.written(old, numbers);
    const locked = protection && latin1(`${lock} 0 obj\n${protection.dictionary}\nendobj\n`);
    const header = latin1(`%PDF-${this.options.version}\n%\u00e2\u00e3\u00cf\u00d3\n`);
    const entries = trailerEntries(end, numbers, lock);

    // Two cross-reference tables: of the first part here, of the second at the end.
    const firstTable = header.length + DICTIONARY_BYTES;
    const tableLength = `xref\n${dictionary} ${size - dictionary}\n`.length + 20 * (size - dictionary);
    const rootAt = firstTable + tableLength + TRAILER_BYTES;
    const root = bytesOf(end.root);
    const lockAt = rootAt + root.length;
    const hintAt = lockAt + (locked?.length ?? 0);

    // All else as if there were no hint stream, which is how hints count.
    const first = parts.pages[0]!.map(bytesOf);
    const rest = order.map(bytesOf);
    const offsets = new Map<number, number>();
    let at = hintAt;
    for (const [i, old] of [...parts.pages[0]!, ...order].entries()) {
      offsets.set(old, at);
      at += (first[i] ?? rest[i - first.length]!).length;
    }
    const lengthOf = (old: number): number => (first[parts.pages[0]!.indexOf(old)] ?? rest[order.indexOf(old)]!).length;
    const hints = hintTables(hintsOf(parts, numbers, offsets, lengthOf));
    const hint = this.hintObject(hintNumber, hints);
    const shift = hint.length;
    const endOfFirst = hintAt + shift + first.reduce((sum, bytes) => sum + bytes.length, 0);
    const mainTable = at + shift;
    const mainHead = `xref\n0 ${dictionary}\n`;
    const main = latin1(
      `${mainHead}0000000000 65535 f \n` +
        order.map((old) => entry(offsets.get(old)! + shift)).join('') +
        `trailer\n<< /Size ${dictionary} >>\nstartxref\n${firstTable}\n%%EOF\n`,
    );
    const length = mainTable + main.length;
    const linearized =
      `${dictionary} 0 obj\n<< /Linearized 1 /L ${length} /H [${hintAt} ${hint.length}] /O ${numbers.get(parts.pages[0]![0]!)}` +
      ` /E ${endOfFirst} /N ${parts.pages.length} /T ${mainTable + mainHead.length - 1} >>\nendobj\n`;
    const firstEntries = [
      entry(header.length),
      entry(rootAt),
      ...(locked ? [entry(lockAt)] : []),
      entry(hintAt),
      ...parts.pages[0]!.map((old) => entry(offsets.get(old)! + shift)),
    ];
    const trailer = `trailer\n<< /Size ${size} /Prev ${mainTable} ${entries} >>\nstartxref\n0\n%%EOF\n`;
    const pieces: Uint8Array[] = [
      header,
      latin1(linearized.padEnd(DICTIONARY_BYTES - 1) + '\n'),
      latin1(`xref\n${dictionary} ${size - dictionary}\n${firstEntries.join('')}`),
      latin1(trailer.padEnd(TRAILER_BYTES - 1) + '\n'),
      root,
      ...(locked ? [locked] : []),
      hint,
      ...first,
      ...rest,
      main,
    ];
    for (const piece of pieces) this.sink.write(piece);
    return length;
  }

  /** An object as it stands in the file: its references by new numbers, its strings and stream enciphered. */
  private written(old: number, numbers: ReadonlyMap<number, number>): Uint8Array {
    const { body, stream } = this.objects.get(old)!;
    const { protection } = this.options;
    const number = numbers.get(old)!;
    const text = changedTokens(body, {
      reference: (to) => `${numbers.get(to) ?? 0} 0 R`,
      ...(protection && { string: (bytes) => `<${hex(protection.cipher(bytes, number))}>` }),
    });
    if (!stream) return latin1(`${number} 0 obj\n${text}\nendobj\n`);
    const bytes = protection?.cipher(stream, number) ?? stream;
    return joined([
      latin1(`${number} 0 obj\n${text} /Length ${bytes.length} >>\nstream\n`),
      bytes,
      latin1('\nendstream\nendobj\n'),
    ]);
  }

  private hintObject(number: number, { bytes, shared, outline }: ReturnType<typeof hintTables>): Uint8Array {
    const { protection } = this.options;
    const stream = protection?.cipher(bytes, number) ?? bytes;
    return joined([
      latin1(`${number} 0 obj\n<< /S ${shared} /O ${outline} /Length ${stream.length} >>\nstream\n`),
      stream,
      latin1('\nendstream\nendobj\n'),
    ]);
  }
}

function trailerEntries({ root, info, id }: FileEnd, numbers: ReadonlyMap<number, number>, lock?: number): string {
  return (
    `/Root ${numbers.get(root)} 0 R` +
    (info === undefined ? '' : ` /Info ${numbers.get(info)} 0 R`) +
    (lock === undefined ? '' : ` /Encrypt ${lock} 0 R`) +
    ` /ID [<${id}> <${id}>]`
  );
}

/** Who uses which object decides where it goes (F.3.3 to F.3.10). */
function partsOf(objects: ReadonlyMap<number, KeptObject>, { root, info, pages }: FileEnd): Parts {
  const isPage = new Set(pages);
  const reach = (starts: readonly number[]): Set<number> => {
    const seen = new Set<number>();
    const waiting = [...starts];
    for (let number = waiting.pop(); number !== undefined; number = waiting.pop()) {
      if (seen.has(number) || isPage.has(number) || !objects.has(number)) continue;
      seen.add(number);
      waiting.push(...referencesOf(objects.get(number)!.body));
    }
    return seen;
  };
  const withoutParent = (page: number): string => objects.get(page)!.body.replace(/\/Parent \d+ 0 R/, '');
  const used = pages.map((page) => reach(referencesOf(withoutParent(page))));
  const catalog = objects.get(root)!.body;
  const outlineRoot = Number(/\/Outlines (\d+) 0 R/.exec(catalog)?.[1] ?? -1);
  const outline = [...reach([outlineRoot])].sort(
    (a, b) => Number(b === outlineRoot) - Number(a === outlineRoot) || a - b,
  );
  const inOutline = new Set(outline);
  const besides = reach([...referencesOf(catalog.replace(/\/Outlines \d+ 0 R/, '')), ...(info ? [info] : [])]);
  const users = new Map<number, number>();
  for (const some of used) for (const number of some) users.set(number, (users.get(number) ?? 0) + 1);
  const byNumber = (some: Iterable<number>): number[] => [...some].sort((a, b) => a - b);
  const alone = (number: number): boolean => users.get(number) === 1 && !besides.has(number);
  const ofFirst = used[0] ?? new Set<number>();
  const own = used.map((some, i) =>
    byNumber(some).filter((number) => (i === 0 ? true : alone(number) && !ofFirst.has(number))),
  );
  const shared = byNumber(users.keys()).filter((number) => !ofFirst.has(number) && users.get(number)! > 1);
  const placed = new Set([root, ...pages, ...outline, ...own.flat(), ...shared]);
  return {
    pages: pages.map((page, i) => [
      page,
      ...own[i]!.filter((number) => !inOutline.has(number)),
      ...(i === 0 ? outline : []),
    ]),
    shared,
    others: byNumber(objects.keys()).filter((number) => !placed.has(number)),
    outline,
    used,
  };
}

function hintsOf(
  { pages, shared, outline, used }: Parts,
  numbers: ReadonlyMap<number, number>,
  offsets: ReadonlyMap<number, number>,
  lengthOf: (old: number) => number,
): FileHints {
  const run = (some: readonly number[]): PlacedObjects => ({
    first: some.length ? numbers.get(some[0]!)! : 0,
    offset: some.length ? offsets.get(some[0]!)! : 0,
    length: some.reduce((sum, old) => sum + lengthOf(old), 0),
    count: some.length,
  });
  const sharable = [...pages[0]!, ...shared];
  const index = new Map(sharable.map((old, i) => [old, i]));
  return {
    pages: pages.map((own, i) => ({
      objects: run(own),
      shared: i === 0 ? [] : [...used[i]!].filter((old) => index.has(old)).map((old) => index.get(old)!),
    })),
    sharedLengths: sharable.map(lengthOf),
    ofFirstPage: pages[0]!.length,
    others: run(shared),
    outline: run(outline),
  };
}

function entry(offset: number): string {
  return `${String(offset).padStart(10, '0')} 00000 n \n`;
}

function hex(bytes: Uint8Array): string {
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
