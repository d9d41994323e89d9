import type { Finding, SheetPackage } from '@folvex/core';
import {
  extraPageAdded,
  findingsAccepted,
  fixesMade,
  pageIdRemoved,
  pagesMoved,
  pageRemoved,
  spaceAdded,
} from '../../../src/places/package/package-edits';
import { groupedFindings } from '../../../src/places/package/checks/finding-groups';
import { pagesToCompose } from '../../../src/places/package/checks/pages-to-compose';
import type { StripPage } from '../../../src/state/packages/packages.selectors';
import { sheet } from '../../support/sheet';

const pack: SheetPackage = {
  ...{ id: 'p', name: 'Permit', recipe: '', order: ['a', 'b'], bundling: 'one' },
  names: { file: '', folder: '', bundle: '' },
};
/** Two pages placed by hand, and one that the rule of the package took in. */
const strip = ['a', 'b', 'c'].map((id): StripPage => {
  return { id, sheet: { ...sheet('1:50'), id }, options: {}, byRule: id === 'c' };
});

describe('edits of a package', () => {
  it('move a page and place what the rule took in; it follows no other page any more', () => {
    expect(pagesMoved(pack, strip, new Set([2]), 0)).toEqual({ order: ['c', 'a', 'b'] });
    const after = { a: 'b', b: 'c' };
    expect(pagesMoved({ ...pack, after }, strip, new Set([0]), 1)).toEqual({
      order: ['b', 'a', 'c'],
      after: { b: 'c' },
    });
  });

  it('take a page out, with what it is; one of the rule is left out, since the rule would bring it back', () => {
    const extras: SheetPackage['extras'] = [{ id: 'a', kind: 'divider', number: 'D1', title: '' }];
    expect(pageRemoved({ ...pack, extras }, strip[0]!)).toEqual({ order: ['b'], extras: [] });
    expect(pageRemoved(pack, strip[2]!)).toEqual({ pages: { c: { skip: true } } });
  });

  it('mend the order that a package has itself, whatever its rules make of it', () => {
    const doubled = { ...pack, order: ['a', 'b', 'a', 'gone'], pages: { b: { skip: true as const } } };
    expect(pageIdRemoved(doubled, 'a', true)).toEqual({ order: ['a', 'b', 'gone'] });
    expect(pageIdRemoved(doubled, 'gone', false)).toEqual({ order: ['a', 'b', 'a'] });
  });

  it('put a divider before a page and a list before all, each with an id of its own', () => {
    const first = extraPageAdded(pack, strip, 'divider', 1);
    expect(first).toMatchObject({ at: 1, change: { order: ['a', 'divider-1', 'b', 'c'] } });
    const second = extraPageAdded({ ...pack, extras: first.change.extras! }, strip, 'divider', 0);
    expect(second.change.extras!.map(({ id, number }) => [id, number])).toEqual([
      ['divider-1', 'D1'],
      ['divider-2', 'D2'],
    ]);
    expect(extraPageAdded(pack, strip, 'index', 2)).toMatchObject({
      at: 0,
      change: { order: ['index-1', 'a', 'b', 'c'] },
    });
  });

  it("put a drawing's space at the end, under a name of its own each time", () => {
    const space = { drawing: 'd', name: 'plan.dxf', space: 'S-1 Site' };
    const first = spaceAdded(pack, strip, space);
    expect(first.order!.slice(0, -1)).toEqual(['a', 'b', 'c']);
    expect(first.extras).toMatchObject([
      { kind: 'space', number: 'S-1', title: 'Site', drawing: 'd', space: 'S-1 Site' },
    ]);
    const again = spaceAdded({ ...pack, extras: first.extras! }, strip, space);
    expect(new Set(again.extras!.map(({ id }) => id)).size).toBe(2);
    expect(spaceAdded(pack, strip, { ...space, space: 'model' }).extras).toMatchObject([{ title: 'plan.dxf' }]);
  });

  it('remember why a finding is accepted, once, until accepting is undone', () => {
    const finding = { code: 'x', severity: 'note' as const, sentence: 'y', place: {} };
    const once = findingsAccepted(pack, [finding], 'Why').accepted!;
    expect(once).toEqual([{ finding: 'x\ny', reason: 'Why' }]);
    expect(findingsAccepted({ ...pack, accepted: once }, [finding], 'Because').accepted).toEqual([
      { finding: 'x\ny', reason: 'Because' },
    ]);
    expect(findingsAccepted({ ...pack, accepted: once }, [finding], '').accepted).toEqual([]);
  });
});

describe('findings of one kind', () => {
  const gap = (n: number): Finding => ({
    ...{ code: 'order.gap', severity: 'note', sentence: `A-10${n} is missing.`, place: { sheet: `A-10${n}` } },
  });

  it('are accepted all at once, those accepted before with the new reason', () => {
    const before = findingsAccepted(pack, [gap(1)], 'Old').accepted!;
    const all = findingsAccepted({ ...pack, accepted: before }, [gap(1), gap(2), gap(3)], 'On purpose').accepted!;
    expect(all.map(({ reason }) => reason)).toEqual(['On purpose', 'On purpose', 'On purpose']);
  });

  it('are fixed all at once, each fix on top of the one before', () => {
    const fixes = ['a', 'b'].map((takeOut) => ({ words: 'Remove', takeOut, keepFirst: false }));
    expect(fixesMade({ ...pack, order: ['a', 'b', 'c', 'a'] }, fixes)).toEqual({ order: ['c'] });
    expect(fixesMade(pack, [{ words: 'Follow', follow: { sheet: 'a', drawing: 'd' } }])).toBeNull();
  });

  it('are one row where there are three of them or more', () => {
    const other = { ...gap(9), code: 'name.clash' };
    const groups = groupedFindings([gap(1), other, gap(2), gap(3)]);
    expect(groups.map(({ findings }) => findings.length)).toEqual([3, 1]);
    expect(groupedFindings([gap(1), gap(2)])).toHaveLength(2);
    const accepted = { ...gap(4), accepted: 'Why' };
    expect(groupedFindings([gap(1), gap(2), gap(3), accepted])).toHaveLength(2);
  });
});

describe('what the checks of composed pages look at', () => {
  const added = (id: string, kind: 'space' | 'divider'): StripPage => ({
    ...{ id, sheet: { ...sheet('1:50'), id }, options: {}, byRule: false },
    extra: { id, kind, number: '', title: '' },
  });
  const pages = [...strip, added('s', 'space'), added('t', 'space'), added('d', 'divider')];

  it('is sheets, and spaces of drawings once the server has them', () => {
    const saved = { ...pack, extras: [added('s', 'space').extra!, added('d', 'divider').extra!] };
    const wanted = pagesToCompose(pages, saved, { a: { url: '', version: '7' }, s: { url: '', version: '8' } });
    expect(wanted.map(({ id, addedBy }) => [id, addedBy])).toEqual([
      ...['a', 'b', 'c'].map((id) => [id, undefined]),
      ['s', 'p'],
    ]);
    expect(wanted[0]).toEqual({ id: 'a', version: '7' });
    expect(wanted[3]!.version).toContain('8');
  });
});
