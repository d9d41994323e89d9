import {
  isMailAddress,
  mailFaults,
  outputPlan,
  recipientsIn,
  resolveDestination,
  runChecks,
  separateDestinations,
  type Mail,
  type Contact,
} from '../../src';
import { input } from '../support/plan-input';

const MAIL: Mail = {
  kind: 'mail',
  server: 'm',
  from: 'drafting@office.example',
  to: 'site@harbour.example',
  subject: '',
};

const PEOPLE: Contact[] = [
  { id: 'site', name: 'Site office', firm: 'Quay Builders', mail: 'site@quay.example' },
  { id: 'plans', name: 'Plan room', firm: 'Harbour Trust', mail: 'plans@trust.example' },
  { id: 'chair', name: 'Chair', firm: 'Harbour Trust', mail: 'chair@trust.example' },
];

describe('addresses of a mail', () => {
  // As the HTML standard's "valid email address" (WHATWG HTML, 4.10.5.1.5) takes them, with the lengths of RFC 5321, 4.5.3.1.
  it.each([
    ['site@harbour.example', true],
    ["o'neil+plans@a-b.harbour.example", true],
    ['site@localhost', true],
    [`${'a'.repeat(64)}@harbour.example`, true],
    [`${'a'.repeat(65)}@harbour.example`, false],
    [`a@${'b'.repeat(64)}.example`, false],
    [`a@${'b.'.repeat(130)}example`, false],
    ['site', false],
    ['site@', false],
    ['@harbour.example', false],
    ['site@-harbour.example', false],
    ['site office@harbour.example', false],
    ['site@harbour.example\r\nBcc: other@harbour.example', false],
    ['Site <site@harbour.example>', false],
  ])('%s', (text, valid) => expect(isMailAddress(text)).toBe(valid));

  it('are separated by commas, semicolons or lines, and each counts once', () => {
    expect(recipientsIn(' a@b.example, c@d.example;A@B.example\n, e@f.example ')).toEqual({
      addresses: ['a@b.example', 'c@d.example', 'e@f.example'],
      unknown: [],
    });
  });

  it('are those of people and firms that are named', () => {
    expect(recipientsIn('site office, Harbour Trust, nobody, x@y.example', PEOPLE)).toEqual({
      addresses: ['site@quay.example', 'plans@trust.example', 'chair@trust.example', 'x@y.example'],
      unknown: ['nobody'],
    });
    // Somebody who is named and belongs to a firm that is named gets one mail.
    expect(recipientsIn('Plan room, Harbour Trust', PEOPLE).addresses).toHaveLength(2);
    expect(recipientsIn('Site office').unknown).toEqual(['Site office']);
  });

  it('get a mail each', () => {
    expect(separateDestinations({ ...MAIL, to: 'a@b.example, c@d.example' })).toEqual([
      { ...MAIL, to: 'a@b.example' },
      { ...MAIL, to: 'c@d.example' },
    ]);
    const folder = { kind: 'folder', folder: 'out', onConflict: 'stop' } as const;
    expect(separateDestinations(folder)).toEqual([folder]);
  });
});

describe('a package that is sent by mail', () => {
  const findings = (mail: Partial<Mail>): [string, string, string][] => {
    const given = input({ destinations: [{ ...MAIL, ...mail }] });
    return runChecks(given, outputPlan(given))
      .filter(({ code }) => code.startsWith('mail.'))
      .map(({ code, severity, sentence }) => [code, severity, sentence]);
  };

  it('is not published while an address is missing or wrong', () => {
    expect(findings({})).toEqual([]);
    expect(findings({ to: '' })).toEqual([
      ['mail.nobody', 'stop', 'The email has no recipient; enter an address in the destination.'],
    ]);
    expect(findings({ from: ' ' })).toEqual([
      ['mail.nobody', 'stop', 'The email has no sender; enter an address in the destination.'],
    ]);
    expect(findings({ to: 'site@harbour.example, site' })).toEqual([
      [
        'mail.address',
        'stop',
        'site is neither an email address nor a person or firm of this project; correct it in the destination.',
      ],
    ]);
    expect(mailFaults({ ...MAIL, from: 'a', to: 'b' })).toHaveLength(2);
  });

  it('has its subject and text with the fields filled in, as they are typed', () => {
    const { project, package: pack } = input({ destinations: [] });
    const facts = { project: { ...project, name: 'Pier 3/4' }, package: pack, runDate: '2026-11-02' };
    const mail = { ...MAIL, subject: '[project.name]', text: 'For [project.name]:\nissued [run.date].' };
    expect(resolveDestination(mail, facts)).toEqual({
      ...{ ok: true, value: { ...mail, subject: 'Pier 3/4', text: 'For Pier 3/4:\nissued 2026-11-02.' } },
    });
    expect(resolveDestination({ ...MAIL, subject: '[project.name' }, facts)).toMatchObject({ ok: false });
    const directed = { ...facts, project: { ...facts.project, people: PEOPLE } };
    expect(resolveDestination({ ...MAIL, to: 'Harbour Trust, x@y.example' }, directed)).toMatchObject({
      value: { to: 'plans@trust.example, chair@trust.example, x@y.example' },
    });
  });
});
