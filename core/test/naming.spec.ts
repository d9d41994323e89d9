import fc from 'fast-check';
import { applyRule, clashKey, fieldsIn, fieldsOf, legalName, legalPath, parseRule, type Fields } from '../src/index';

const FIELDS: Fields = {
  'sheet.number': 'A-101',
  'sheet.title': 'Café / Ticket hall',
  'sheet.revision': '',
  'run.date': '2026-11-25',
  page: '7',
};

function name(rule: string, fields = FIELDS): string {
  const parsed = parseRule(rule);
  if (!parsed.ok) throw new Error(parsed.problem.sentence);
  return applyRule(parsed.value, fields).name;
}

describe('naming rules', () => {
  it.each([
    ['[sheet.number] [sheet.title]', 'A-101 Café / Ticket hall'],
    ['[sheet.title > words _ > upper]', 'CAFÉ_/_TICKET_HALL'],
    ['[sheet.title > ascii > lower]', 'cafe / ticket hall'],
    ['[run.date > date YYYY-MM-DD]', '2026-11-25'],
    ['[run.date > date DD.MM.YY]', '25.11.26'],
    ['[page > pad 3]', '007'],
    ['[sheet.title > cut 4]', 'Café'],
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

  it('never throws and ends for any text', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'[]()?>\\ab. 1'.split('')) }), (text) => void parseRule(text)),
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
    expect(clashKey('A.pdf')).toBe(clashKey('a.PDF'));
    expect(clashKey('Cafe\u0301')).toBe(clashKey('CAFÉ'));
    expect(clashKey('STRASSE')).toBe(clashKey('straße'));
    expect(clashKey('A-1')).not.toBe(clashKey('A-2'));
  });
});
