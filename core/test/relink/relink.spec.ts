import fc from 'fast-check';
import { collisionKey, readRenameTable, relinkPlan, renamed, type RelinkWish } from '../../src/index';

const WISH: RelinkWish = { rule: {}, table: [], rename: false };

describe('new names', () => {
  it('come step by step, the extension and the folder stay', () => {
    const rule = {
      find: 'Sheet - ',
      replace: '',
      removeFirst: 2,
      prefix: 'TQ ',
      spaces: '_',
      letters: 'upper' as const,
    };
    expect(renamed('plans/Sheet - xA-101 Ground floor.pdf', rule)).toBe('plans/TQ_-101_GROUND_FLOOR.pdf');
    expect(renamed('A-101.pdf', { prefix: '2617 ' })).toBe('2617 A-101.pdf');
    expect(renamed('A-101.pdf', {})).toBe('A-101.pdf');
  });

  it('are legal whatever the rule, and never empty', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), fc.nat(40), (prefix, find, removeFirst) => {
        const name = renamed('A-101 plan.pdf', { prefix, find, removeFirst });
        expect(name).not.toMatch(/[<>:"|?*\\\u0000-\u001f]/);
        expect(name.length).toBeGreaterThan('.pdf'.length);
      }),
    );
  });

  it('come from a table with or without the extension, a heading left out', () => {
    expect(readRenameTable('old,new\nA-101.pdf,TQ-101\nB.pdf;C.pdf\n"x, y.pdf",z.pdf\n')).toEqual([
      ['A-101.pdf', 'TQ-101.pdf'],
      ['x, y.pdf', 'z.pdf'],
    ]);
  });
});

describe('where links should lead', () => {
  const files = [
    {
      path: 'plans/TQ_A-101.pdf',
      targets: ['../details/A-501.pdf', 'A-101.pdf', 'gone.pdf', '..\\details\\TQ_A-501.pdf'],
    },
    { path: 'details/TQ_A-501.pdf', targets: ['../plans/A-101 old.pdf'] },
  ];

  it('follows the rule by which files were renamed, and numbers of sheets where that does not help', () => {
    const { links } = relinkPlan(files, { ...WISH, rule: { prefix: 'TQ_' } });
    expect(links.map(({ target, state, to }) => [target, state, to])).toEqual([
      ['../details/A-501.pdf', 'repaired', '../details/TQ_A-501.pdf'],
      ['A-101.pdf', 'repaired', 'TQ_A-101.pdf'],
      ['gone.pdf', 'dangling', undefined],
      ['..\\details\\TQ_A-501.pdf', 'works', '../details/TQ_A-501.pdf'],
      ['../plans/A-101 old.pdf', 'suggested', '../plans/TQ_A-101.pdf'],
    ]);
  });

  it('goes with files that are renamed at the same time', () => {
    const wish = { ...WISH, rule: { find: 'TQ_', replace: '' }, rename: true };
    const set = [
      { path: 'TQ_A-101.pdf', targets: ['TQ_A-501.pdf'] },
      { path: 'TQ_A-501.pdf', targets: [] },
    ];
    const plan = relinkPlan(set, wish);
    expect(plan.files.map(({ to }) => to)).toEqual(['A-101.pdf', 'A-501.pdf']);
    expect(plan.links).toEqual([{ file: 'TQ_A-101.pdf', target: 'TQ_A-501.pdf', state: 'works', to: 'A-501.pdf' }]);
  });

  it('finds files that moved to another folder, and numbers among others in a name', () => {
    const flat = [
      { path: 'TQ_2617-A-101-Plan_P03.pdf', targets: ['../details/2617-A-501-Details_P01.pdf', 'old A 501.pdf'] },
      { path: 'TQ_2617-A-501-Details_P01.pdf', targets: ['B-7.pdf'] },
      { path: 'TQ_2617-A-502-Hinge_P01.pdf', targets: [] },
    ];
    const states = (rule: RelinkWish['rule']) =>
      relinkPlan(flat, { ...WISH, rule }).links.map(({ state, to }) => [state, to]);
    const details = 'TQ_2617-A-501-Details_P01.pdf';
    expect(states({ prefix: 'TQ_' })).toEqual([
      ['repaired', details],
      ['suggested', details],
      ['dangling', undefined],
    ]);
    expect(states({})[0]).toEqual(['suggested', details]);
  });

  it('tells of names that two files would have, letter case aside', () => {
    const set = ['a1.pdf', 'A2.pdf'].map((path) => ({ path, targets: [] }));
    const rule = { find: '1', replace: '2' };
    expect(relinkPlan(set, { ...WISH, rule, rename: true }).clashes.map(collisionKey)).toEqual(['A2.PDF']);
  });

  it('has a table go before the rule', () => {
    const table: [string, string][] = [['A-501.pdf', 'TQ_A-501.pdf']];
    const { links } = relinkPlan(files, { ...WISH, table });
    expect(links[0]).toMatchObject({ state: 'repaired', to: '../details/TQ_A-501.pdf' });
  });
});
