import { fileFilter, outputPlan, peopleFor, runChecks, type Contact, type Mail } from '../../src';
import { input } from '../support/plan-input';

const MAIL: Mail = {
  ...{ kind: 'mail', server: 'm', from: 'drafting@office.example', subject: '' },
  to: 'Engineer, Site office, visitor@harbour.example',
};
const ENGINEER: Contact = {
  ...{ id: 'e', name: 'Engineer', mail: 'engineer@beam.example' },
  ...{ purposes: ['Permit', 'Tender'], groups: ['plans'], formats: ['dxf'] },
};
const SITE: Contact = { id: 's', name: 'Site office', mail: 'Site@Quay.example', groups: ['Elevations'] };

/** Sheets a and b are plans, c is an elevation; each comes as PDF and DXF. */
const given = (people: Contact[], more: Parameters<typeof input>[0] = {}) => {
  const facts = input({ destinations: [MAIL], extraFormats: { formats: ['dxf'] }, ...more });
  return { ...facts, project: { ...facts.project, people } };
};

describe('what somebody is sent of a run', () => {
  const pathsFor = (address: string, people: Contact[], more?: Parameters<typeof input>[0]): string[] => {
    const facts = given(people, more);
    return outputPlan(facts)
      .files.filter(fileFilter(facts, address))
      .map(({ path }) => path);
  };

  it('is what their formats and groups are in, whatever the capitals', () => {
    expect(pathsFor('engineer@beam.example', [ENGINEER, SITE])).toEqual(['A-101.dxf', 'A-102.dxf']);
    expect(pathsFor('site@quay.example', [ENGINEER, SITE])).toEqual(['A-201.pdf', 'A-201.dxf']);
  });

  it('is everything where nothing is stated, or nobody is known by the address', () => {
    const everything = ['A-101.pdf', 'A-102.pdf', 'A-201.pdf', 'A-101.dxf', 'A-102.dxf', 'A-201.dxf'];
    expect(pathsFor('visitor@harbour.example', [ENGINEER, SITE])).toEqual(everything);
    const { groups: _, ...unlimited } = SITE;
    expect(pathsFor(SITE.mail, [unlimited])).toEqual(everything);
  });

  it('is what any of those gets who share the address', () => {
    const shared = [ENGINEER, { ...SITE, mail: ENGINEER.mail }];
    expect(pathsFor(ENGINEER.mail, shared)).toEqual(['A-201.pdf', 'A-101.dxf', 'A-102.dxf', 'A-201.dxf']);
  });

  it('is a file of several groups where one of them is theirs, and a file of none', () => {
    expect(pathsFor(SITE.mail, [SITE], { bundling: 'one', extraFormats: undefined })).toEqual(['Permit.pdf']);
    const facts = given([SITE]);
    expect(fileFilter(facts, SITE.mail)({ sheets: ['no sheet of the project'] })).toBe(true);
    expect(fileFilter(facts, SITE.mail)({ sheets: ['a'] })).toBe(false);
    expect(fileFilter(facts, SITE.mail)({ sheets: ['a', 'c'] })).toBe(true);
  });
});

describe('checks of recipients', () => {
  const findings = (people: Contact[], more?: Parameters<typeof input>[0]): [string, string, string][] => {
    const facts = given(people, more);
    return runChecks(facts, outputPlan(facts))
      .filter(({ code }) => code.startsWith('mail.'))
      .map(({ code, severity, sentence }) => [code, severity, sentence]);
  };

  it('name those who get nothing, and groups that are none', () => {
    expect(findings([ENGINEER, SITE])).toEqual([]);
    expect(findings([ENGINEER, SITE], { extraFormats: undefined })).toEqual([
      [
        'mail.left-out',
        'warning',
        'engineer@beam.example gets none of the files; change what they get in Settings, People, or remove them from the destination.',
      ],
    ]);
    expect(findings([ENGINEER, { ...SITE, groups: ['Elevations', 'Details'] }])).toEqual([
      [
        'mail.group',
        'warning',
        'Site@Quay.example gets the sheets of Details, which is no group of this project; correct it in Settings, People.',
      ],
    ]);
  });
});

describe('an issue', () => {
  it('is proposed for those who get issues for its purpose', () => {
    const names = (purpose: string) => peopleFor(purpose, [ENGINEER, SITE]).map(({ name }) => name);
    expect(names(' permit ')).toEqual(['Engineer']);
    expect(names('Permit set')).toEqual([]);
    expect(names('')).toEqual([]);
  });
});
