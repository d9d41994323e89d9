import fc from 'fast-check';
import sanitize from 'sanitize-filename';
import {
  applyRule,
  faultOf,
  collisionKey,
  completionAt,
  FIELD_HELP,
  fieldsIn,
  fieldsOf,
  legalName,
  legalPath,
  NAME_PRESETS,
  outputPlan,
  parseRule,
  runChecks,
  stretchesOf,
  type Fields,
  type PlanInput,
  type Sheet,
} from '../../src/index';

const FIELDS: Fields = {
  'sheet.number': 'A-101',
  'sheet.title': 'Café / Ticket hall',
  'sheet.revision': '',
  other: 'Lageplan \u0391\u03b8\u03ae\u03bd\u03b1 \u2013 \u0429\u0451\u043b\u044c',
  'run.date': '2026-11-25',
  page: '7',
};

function name(rule: string, fields = FIELDS): string {
  const parsed = parseRule(rule);
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  return applyRule(parsed.value, fields).name;
}

describe('texts that are made to take long', () => {
  // Looking ahead from each of a million separators would take hours.
  const separators = `${'_'.repeat(1_000_000)}x`;

  it('are cut before and after each step, and read in one pass', () => {
    expect(name('[sheet.title]', { 'sheet.title': separators })).toHaveLength(4000);
    expect(
      name('[a > replace a aaaaaaaaaa > replace a aaaaaaaaaa > replace a aaaaaaaaaa]', { a: 'a'.repeat(3000) }),
    ).toBe('a'.repeat(4000));
    const rule = parseRule(`${separators}[none]`);
    if (!rule.ok) throw new Error(rule.problem.sentence);
    expect(applyRule(rule.value, {}, 'skip').name).toHaveLength(1_000_001);
    expect(legalName(`${'.'.repeat(1_000_000)}x`)).toBe('…');
  });

  it('have no halves of characters in names', () => {
    expect(legalName('Plan \ud83d \ud83d\ude00')).toBe('Plan \ufffd \ud83d\ude00');
  });
});

describe('naming rules', () => {
  it.each([
    ['[sheet.number] [sheet.title]', 'A-101 Café / Ticket hall'],
    ['[sheet.title > words _ > upper]', 'CAFÉ_/_TICKET_HALL'],
    ['[sheet.title > ascii > lower]', 'cafe / ticket hall'],
    ['[run.date > date YYYY-MM-DD]', '2026-11-25'],
    ['[run.date > date DD.MM.YY]', '25.11.26'],
    ['[page > pad 3]', '007'],
    ['[sheet.title > cut 4]', 'Café'],
    ['[other > ascii]', 'Lageplan Athina - Shchel'],
    ['[sheet.title > replace / +]', 'Café + Ticket hall'],
    ['[sheet.title > replace /]', 'Café  Ticket hall'],
    ['[sheet.number](? - rev [sheet.revision])', 'A-101'],
    ['[sheet.number](? - page [page])', 'A-101 - page 7'],
    ['\\[plain\\] \\(?x)', '[plain] (?x)'],
    ['(plain brackets)', '(plain brackets)'],
    ['', ''],
  ])('%s', (rule, result) => {
    expect(name(rule)).toBe(result);
  });

  it('tells blank fields, but not those of optional parts', () => {
    const parsed = parseRule('[sheet.revision] [sheet.number] (?[sheet.revision])');
    expect(parsed.ok && applyRule(parsed.value, FIELDS).blank).toEqual(['sheet.revision']);
    expect(parsed.ok && fieldsIn(parsed.value)).toEqual(['sheet.revision', 'sheet.number']);
  });

  it.each([
    ['[sheet.number]_[sheet.revision]', 'A-101'],
    ['[sheet.number] - [sheet.revision] - [page]', 'A-101 - 7'],
    ['[sheet.revision]-[sheet.number]', 'A-101'],
    ['[sheet.revision][sheet.revision] [page]', '7'],
    ['rev [sheet.revision] [page]', 'rev 7'],
    ['[sheet.revision]', ''],
  ])('%s without blank fields and their separators is %j', (rule, result) => {
    const parsed = parseRule(rule);
    expect(parsed.ok && applyRule(parsed.value, FIELDS, 'skip')).toEqual({ name: result, blank: [] });
  });

  it('has presets that can be read, of fields that there are or that offices make', () => {
    for (const { rule } of NAME_PRESETS) {
      const parsed = parseRule(rule);
      expect(
        parsed.ok && fieldsIn(parsed.value).every((path) => path in FIELD_HELP || /^(project|sheet)\./.test(path)),
      ).toBe(true);
    }
  });

  it.each([
    ['[sheet.number', 'never closed'],
    ['(? [page]', 'never closed'],
    ['[]', 'not a field'],
    ['[1x]', 'not a field'],
    ['[page > shout]', 'there is no step "shout"'],
    ['[page > pad]', 'one whole number'],
    ['[page > upper 3]', 'takes nothing'],
  ])('%s is refused with what is wrong', (rule, part) => {
    const parsed = parseRule(rule);
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.problem.sentence).toContain(part);
  });

  it.each([
    ['Plan [sheet.number', '[sheet.number'],
    ['A (? [page]', '(? [page]'],
    ['x [1x] y', '[1x]'],
    ['[page > pad 2 > shout]', '> shout'],
    ['[page > shout] [', '> shout'],
    ['(? [] )', '[]'],
  ])('%s is wrong at %s', (rule, part) => {
    const { from, to } = faultOf(rule)!;
    expect(rule.slice(from, to)).toBe(part);
  });

  it('never throws and ends for any text; what is wrong lies in it', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'[]()?>\\ab. 1'.split('')) }), (text) => {
        const fault = faultOf(text);
        expect(parseRule(text).ok).toBe(fault === undefined);
        if (fault) expect(0 <= fault.from && fault.from < fault.to && fault.to <= text.length).toBe(true);
      }),
    );
  });

  it('offers the fields of sheet, revision, group, package, project and run', () => {
    const fields = fieldsOf({
      project: { number: '2617', name: 'Terminal', client: 'C', fields: { stage: 'Permit' } },
      package: { name: 'Set' },
      group: { name: 'Plans' },
      runDate: '2026-11-25',
      page: 2,
      pages: 9,
    });
    expect(fields).toMatchObject({
      'project.stage': 'Permit',
      'group.name': 'Plans',
      page: '2',
      pages: '9',
      'sheet.number': '',
    });
  });
});

describe('writing a rule', () => {
  it('shows fields and the brackets of optional parts apart, and loses nothing', () => {
    expect(stretchesOf('a [page > pad 3](? - [x]) \\[b\\] )[c')).toEqual([
      { kind: 'text', text: 'a ' },
      { kind: 'field', text: '[page > pad 3]' },
      { kind: 'bracket', text: '(?' },
      { kind: 'text', text: ' - ' },
      { kind: 'field', text: '[x]' },
      { kind: 'bracket', text: ')' },
      { kind: 'text', text: ' \\[b\\] )[c' },
    ]);
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'[]()?>\\ab. \n'.split('')) }), (text) => {
        expect(
          stretchesOf(text)
            .map((stretch) => stretch.text)
            .join(''),
        ).toBe(text);
      }),
    );
  });

  const names = (source: string): string[] | undefined =>
    completionAt(source, source.length, FIELD_HELP)?.options.map(({ text }) => text);
  it('offers fields behind a bracket and steps behind >, and nothing elsewhere', () => {
    expect(names('x [sheet.n')).toEqual(['sheet.number']);
    expect(names('[TITLE')).toEqual(['sheet.title']);
    expect(names('[')).toEqual(Object.keys(FIELD_HELP));
    expect(names('[page >')).toContain('pad');
    expect(names('[page > up')).toEqual(['upper']);
    expect(names('[page > upper > lo')).toEqual(['lower']);
    for (const none of ['', 'x', '[page]', '[page] x', '[page > pad 3', '[page > pad', '\\[sh', '[page', '[zzz']) {
      expect(names(none)).toBeUndefined();
    }
    expect(completionAt('[sh] tail', 3, FIELD_HELP)).toMatchObject({ from: 1, to: 3 });
  });
});

/**
 * What three systems ask of a name. Windows: Microsoft, "Naming Files, Paths, and Namespaces"; macOS: no colon or slash
 * (Apple, "File System Programming Guide"); Linux: no slash or NUL, 255 bytes (POSIX NAME_MAX as ext4 has it).
 */
function legalOnAll(name: string): boolean {
  const windows = !/[<>:"/\\|?*\u0000-\u001f]|[. ]$/.test(name) && !/^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i.test(name);
  return windows && name !== '' && name.length <= 255 && new TextEncoder().encode(name).length <= 255;
}

describe('names that a rule makes', () => {
  const value = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 20 }),
    fc.constantFrom('', 'A-101', 'a-101', 'CON', 'Caf\u00e9', 'Cafe\u0301', 'Hall / Steps', '..', 'x'.repeat(300)),
  );
  const rule = fc
    .array(
      fc.constantFrom(
        '[sheet.number]',
        '[sheet.title > upper]',
        '(? - [sheet.title])',
        '[page > pad 3]',
        ' ',
        '_',
        'nul',
      ),
      { minLength: 1 },
    )
    .map((pieces) => pieces.join(''));
  const sheets = fc.array(fc.record({ number: value, title: value }), { minLength: 1, maxLength: 6 }).map((all) =>
    all.map(({ number, title }, i): Sheet => ({
      id: `s${i}`,
      group: 'g',
      number,
      title,
      paper: { name: 'A3', orientation: 'landscape' },
      frame: 'none',
      titleBlock: undefined,
      revision: undefined,
      views: [],
    })),
  );

  it('are legal and told apart on three systems, or the run is stopped', () => {
    fc.assert(
      fc.property(rule, sheets, fc.constantFrom('stop' as const, 'skip' as const), (file, all, blanks) => {
        const input: PlanInput = {
          project: { number: '1', name: 'P', client: '', fields: {} },
          groups: [],
          sheets: all,
          package: {
            id: 'p',
            name: 'Set',
            recipe: '',
            order: all.map(({ id }) => id),
            bundling: 'sheet',
            names: { file, folder: '', bundle: '' },
            blanks,
          },
          runDate: '2026-11-25',
        };
        const plan = outputPlan(input);
        const stops = runChecks(input, plan).filter(
          ({ severity, code }) => severity === 'stop' && code.startsWith('name.'),
        );
        if (stops.length > 0) return;
        const paths = plan.files.map(({ path }) => path);
        for (const path of paths) {
          expect(legalOnAll(path)).toBe(true);
          // A widely used library finds nothing to change either.
          expect(sanitize(path)).toBe(path);
        }
        expect(new Set(paths.map((path) => path.normalize('NFD').toLowerCase())).size).toBe(paths.length);
        expect(new Set(paths.map((path) => path.normalize('NFC').toUpperCase())).size).toBe(paths.length);
      }),
      { numRuns: 400 },
    );
  });
});

describe('legal names', () => {
  it.each([
    ['A-101: Plan', 'A-101- Plan.pdf'],
    ['Café/Hall', 'Café-Hall.pdf'],
    ['What?*', 'What.pdf'],
    ['"x" <y>', "'x' (y).pdf"],
    ['end. ', 'end.pdf'],
    ['CON', 'CON_.pdf'],
    ['com1.plan', 'com1_.plan.pdf'],
    ['Cafe\u0301', 'Café.pdf'],
    ['a\u0000b\tc', 'abc.pdf'],
    ['a\u0085b\u009f', 'ab.pdf'],
    ['COM\u00b9', 'COM\u00b9_.pdf'],
    ['conin$', 'conin$_.pdf'],
    ['x'.repeat(300), `${'x'.repeat(248)}\u2026.pdf`],
    ['...', ''],
  ])('%j becomes %j', (wanted, legal) => {
    expect(legalName(wanted, '.pdf')).toBe(legal);
  });

  it('holds nothing that some system refuses, and at most 255 bytes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 400 }), (text) => {
        const legal = legalName(text, '.pdf');
        expect(legal).not.toMatch(/[<>:"/\\|?*\u0000-\u001f]/);
        expect(new TextEncoder().encode(legal).length).toBeLessThanOrEqual(255);
        expect(legalName(legal.replace(/\.pdf$/, ''), '.pdf')).toBe(legal);
      }),
    );
  });

  it('never leads out of the folder', () => {
    expect(legalPath('../../etc//plans/./x')).toBe('etc/plans/x');
    expect(legalPath('Plans\\2026')).toBe('Plans/2026');
  });

  it('compares names as the strictest system does', () => {
    expect(collisionKey('A.pdf')).toBe(collisionKey('a.PDF'));
    expect(collisionKey('Cafe\u0301')).toBe(collisionKey('CAFÉ'));
    expect(collisionKey('STRASSE')).toBe(collisionKey('straße'));
    expect(collisionKey('A-1')).not.toBe(collisionKey('A-2'));
  });
});
