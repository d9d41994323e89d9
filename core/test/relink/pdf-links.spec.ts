import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import PDFKit from 'pdfkit';
import { linksIn, relinked } from '../../src/foreign';

type Action = Record<string, unknown>;

/** A PDF of another library with one link for each action. */
async function pdfWith(actions: readonly Action[]): Promise<Uint8Array> {
  const kit = new PDFKit({ size: [300, 400] });
  const chunks: Buffer[] = [];
  kit.on('data', (chunk: Buffer) => chunks.push(chunk));
  for (const [i, own] of actions.entries()) {
    const action = kit.ref(own);
    action.end();
    kit.annotate(20, 20 + 20 * i, 60, 15, { Subtype: 'Link', A: action, Border: [0, 0, 0] });
  }
  const done = new Promise((resolve) => kit.on('end', () => resolve(undefined)));
  kit.end();
  await done;
  return new Uint8Array(Buffer.concat(chunks));
}

/** pdfkit writes such strings as texts, and plain ones as names. */
const text = (value: string): string => new String(value) as string;

/** Where the links lead, as pdf.js reads them. */
async function leadTo(bytes: Uint8Array): Promise<(string | undefined)[]> {
  const document = await getDocument({ data: bytes.slice(), verbosity: 0 }).promise;
  const annotations = (await (await document.getPage(1)).getAnnotations()) as { unsafeUrl?: string }[];
  return annotations.map(({ unsafeUrl }) => unsafeUrl);
}

async function links(bytes: Uint8Array): Promise<string[]> {
  const found = await linksIn(bytes, 'set.pdf');
  if (!found.ok) throw new Error(found.problem.sentence);
  return found.value;
}

// Kinds of ISO 32000-2, 12.6.4: GoToR, Launch (table 207) and URI; addresses by RFC 3986 and RFC 8089.
const KINDS: [string, Action, string][] = [
  ['a remote place', { S: 'GoToR', F: text('A-102.pdf'), D: [0, 'Fit'] }, 'A-102.pdf'],
  [
    'a file with two names',
    { S: 'GoToR', F: { Type: 'Filespec', F: text('A-102.pdf'), UF: text('A-102.pdf') } },
    'A-102.pdf',
  ],
  ['a launch', { S: 'Launch', F: text('A-102.pdf') }, 'A-102.pdf'],
  ['a launch for Windows only', { S: 'Launch', Win: { F: text('A-102.pdf'), O: text('open') } }, 'A-102.pdf'],
  ['a relative address', { S: 'URI', URI: text('plans/A%23102%20roof.pdf#page=2') }, 'plans/A#102 roof.pdf'],
  ['an address of a file', { S: 'URI', URI: text('file:///D:/jobs/A-102.pdf') }, 'D:/jobs/A-102.pdf'],
  ['an address of a file without slashes', { S: 'URI', URI: text('file:A-102.pdf') }, 'A-102.pdf'],
];

it.each(KINDS)('finds %s', async (_, action, target) => {
  expect(await links(await pdfWith([action]))).toEqual([target]);
});

it.each(KINDS)('repairs %s, whatever the new name has in it', async (_, action, target) => {
  const bytes = await pdfWith([action]);
  const isAddress = action['S'] === 'URI';
  // pdf.js cuts names of files, which are no addresses, at a # itself.
  const name = isAddress ? 'TQ_A#102 50%.pdf' : 'TQ_A-102 50%.pdf';
  const made = await relinked(bytes, 'set.pdf', new Map([[target, name]]));
  if (!made.ok) throw new Error(made.problem.sentence);
  // All that it says is changed, and an outside reader goes there.
  expect(await links(made.value)).toEqual([name]);
  const place = (await leadTo(made.value))[0]!.replace(/#.*/, '');
  expect(isAddress ? decodeURIComponent(place) : place).toBe(name);
});

it('keeps the place within the file, and the words for Windows', async () => {
  const bytes = await pdfWith([KINDS[4]![1], { S: 'Launch', F: text('A-102.pdf'), Win: { F: text('A-102.pdf') } }]);
  const changes = new Map([
    ['plans/A#102 roof.pdf', 'Roof.pdf'],
    ['A-102.pdf', 'TQ_A-102.pdf'],
  ]);
  const made = await relinked(bytes, 'set.pdf', changes);
  if (!made.ok) throw new Error(made.problem.sentence);
  expect((await leadTo(made.value))[0]).toBe('Roof.pdf#page=2');
  const added = new TextDecoder('latin1').decode(made.value.subarray(bytes.length));
  expect(added.match(/TQ_A-102\.pdf/g)).toHaveLength(2);
});

it('leaves addresses on the web and other files alone', async () => {
  const others = [
    { S: 'URI', URI: text('https://example.org/A-101.pdf') },
    { S: 'Launch', F: text('notes.docx') },
  ];
  expect(await links(await pdfWith(others))).toEqual([]);
});
