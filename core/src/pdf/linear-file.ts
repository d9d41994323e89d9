import { changedTokens, referencesOf } from './body-tokens';
import { joinBytes } from '../join-bytes';
import { latin1 } from './bytes';
import type { FileEnd, FileOptions, ObjectWriter, Sink } from './file-writer';
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
/** A line of a cross-reference table (ISO 32000-2, 7.5.4). */
const ENTRY_BYTES = 20;

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
    const [first, rest] = [parts.pages[0]!, [...parts.pages.slice(1).flat(), ...parts.shared, ...parts.others]];
    const numbered = numbersFor(end.root, first, rest, this.options.protection !== undefined);
    const { numbers, dictionary, lock, size } = numbered;
    const { protection } = this.options;
    const header = latin1(`%PDF-${this.options.version}\n%\u00e2\u00e3\u00cf\u00d3\n`);
    const locked = latin1(protection ? `${lock} 0 obj\n${protection.dictionary}\nendobj\n` : '');
    const root = this.written(end.root, numbers);
    const written = new Map([...first, ...rest].map((old) => [old, this.written(old, numbers)]));
    const lengthOf = (old: number): number => written.get(old)!.length;

    // Two cross-reference tables: of the first part here, of the second at the end.
    const firstTable = header.length + DICTIONARY_BYTES;
    const tableHead = `xref\n${dictionary} ${size - dictionary}\n`;
    const rootAt = firstTable + tableHead.length + ENTRY_BYTES * (size - dictionary) + TRAILER_BYTES;
    const lockAt = rootAt + root.length;
    const hintAt = lockAt + locked.length;
    // All else as if there were no hint stream, which is how hints count.
    const offsets = new Map<number, number>();
    let at = hintAt;
    for (const [old, bytes] of written) {
      offsets.set(old, at);
      at += bytes.length;
    }
    const hint = this.hintObject(numbered.hint, hintTables(hintsOf(parts, numbers, offsets, lengthOf)));
    const entryOf = (old: number): string => entry(offsets.get(old)! + hint.length);

    const mainTable = at + hint.length;
    const mainHead = `xref\n0 ${dictionary}\n`;
    const main = latin1(
      `${mainHead}0000000000 65535 f \n${rest.map(entryOf).join('')}` +
        `trailer\n<< /Size ${dictionary} >>\nstartxref\n${firstTable}\n%%EOF\n`,
    );
    const length = mainTable + main.length;
    const endOfFirst = hintAt + hint.length + first.reduce((sum, old) => sum + lengthOf(old), 0);
    const linearized =
      `${dictionary} 0 obj\n<< /Linearized 1 /L ${length} /H [${hintAt} ${hint.length}] /O ${numbers.get(first[0]!)}` +
      ` /E ${endOfFirst} /N ${parts.pages.length} /T ${mainTable + mainHead.length - 1} >>\nendobj\n`;
    const firstEntries = [
      entry(header.length),
      entry(rootAt),
      ...(protection ? [entry(lockAt)] : []),
      entry(hintAt),
      ...first.map(entryOf),
    ];
    const entries = trailerEntries(end, numbers, lock);
    const trailer = `trailer\n<< /Size ${size} /Prev ${mainTable} ${entries} >>\nstartxref\n0\n%%EOF\n`;
    this.sink.write(header);
    this.sink.write(filledUp(linearized, DICTIONARY_BYTES));
    this.sink.write(latin1(tableHead + firstEntries.join('')));
    this.sink.write(filledUp(trailer, TRAILER_BYTES));
    for (const piece of [root, locked, hint, ...written.values(), main]) this.sink.write(piece);
    return length;
  }

  /** An object as the file has it: references by new numbers, strings and stream encrypted. */
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
    return joinBytes([
      latin1(`${number} 0 obj\n${text} /Length ${bytes.length} >>\nstream\n`),
      bytes,
      latin1('\nendstream\nendobj\n'),
    ]);
  }

  private hintObject(number: number, { bytes, shared, outline }: ReturnType<typeof hintTables>): Uint8Array {
    const { protection } = this.options;
    const stream = protection?.cipher(bytes, number) ?? bytes;
    return joinBytes([
      latin1(`${number} 0 obj\n<< /S ${shared} /O ${outline} /Length ${stream.length} >>\nstream\n`),
      stream,
      latin1('\nendstream\nendobj\n'),
    ]);
  }
}

/** New numbers: first what comes last in the file, then what comes first, as its two cross-reference tables want. */
function numbersFor(root: number, first: readonly number[], rest: readonly number[], locked: boolean) {
  const numbers = new Map(rest.map((old, i) => [old, i + 1]));
  const dictionary = rest.length + 1;
  numbers.set(root, dictionary + 1);
  const lock = locked ? dictionary + 2 : undefined;
  const hint = (lock ?? dictionary + 1) + 1;
  first.forEach((old, i) => numbers.set(old, hint + 1 + i));
  return { numbers, dictionary, lock, hint, size: hint + first.length + 1 };
}

/** A text with spaces behind it, up to a line end at a length; longer ones would move everything behind them. */
function filledUp(text: string, length: number): Uint8Array {
  if (text.length >= length) throw new Error(`${text.length} bytes do not go into ${length}`);
  return latin1(`${text.padEnd(length - 1)}\n`);
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
