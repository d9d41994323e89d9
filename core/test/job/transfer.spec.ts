import { settingOffers, copySettings, withPackageNames, type NoteStyle, type ProjectSettings } from '../../src/index';

const style = (id: string, size: number): NoteStyle => ({ id, name: id.toUpperCase(), size, font: 'sans' });

function settings(project: Partial<ProjectSettings['project']>, more: Partial<ProjectSettings> = {}): ProjectSettings {
  return { project: { number: '', name: '', client: '', fields: {}, ...project }, groups: [], recipes: [], ...more };
}

const from = settings(
  { textStyles: [style('a', 2.5), style('b', 5)], papers: [{ name: 'Long A3', short: 297, long: 800 }] },
  { groups: [{ id: 'plans', name: 'Plans' }] },
);

describe('settings that go from project to project', () => {
  it('are told apart as new, the same, and clashing', () => {
    // As a database may give it back: its keys in another order.
    const turned = Object.fromEntries(Object.entries(style('a', 2.5)).reverse()) as unknown as NoteStyle;
    const to = settings({ textStyles: [turned, style('B', 7)] });
    expect(settingOffers(from, to).map(({ kind, key, state }) => [kind, key, state])).toEqual([
      ['textStyles', 'a', 'same'],
      ['textStyles', 'b', 'clash'],
      ['papers', 'Long A3', 'new'],
      ['groups', 'plans', 'new'],
    ]);
  });

  it('are added where they are new, with nothing else touched', () => {
    const to = settings({ name: 'Ours', textStyles: [style('z', 1)] });
    const after = copySettings(from, to, [
      { kind: 'textStyles', key: 'b' },
      { kind: 'groups', key: 'plans' },
    ]);
    expect(after.project).toEqual({ ...to.project, textStyles: [style('z', 1), style('b', 5)] });
    expect(after.groups).toEqual(from.groups);
    expect(to.project.textStyles).toEqual([style('z', 1)]);
  });

  it('take the place of a clashing one, or are added under a free name', () => {
    const to = settings({ textStyles: [style('b', 7), style('b-2', 1)] });
    const taken = (clash: 'replace' | 'both'): unknown =>
      copySettings(from, to, [{ kind: 'textStyles', key: 'b', clash }]).project.textStyles;
    expect(taken('replace')).toEqual([style('b', 5), style('b-2', 1)]);
    expect(taken('both')).toEqual([...to.project.textStyles!, { ...style('b', 5), id: 'b-3', name: 'B (3)' }]);
  });

  it('leave nothing to clash once taken over', () => {
    const to = settings({ textStyles: [style('b', 7)] });
    const all = settingOffers(from, to).map(({ kind, key }) => ({ kind, key, clash: 'replace' as const }));
    const after = copySettings(from, to, all);
    expect(settingOffers(from, after).every(({ state }) => state === 'same')).toBe(true);
  });

  it('offer the naming rules of packages under their names', () => {
    const names = { file: '[sheet.number]', folder: '', bundle: '[package.name]' };
    const pack = { id: 'p', name: 'Permit', recipe: '', order: [], bundling: 'one' as const, names };
    const offered = withPackageNames(from, [pack]);
    expect(offered.project.namings).toEqual([{ id: 'p', name: 'Permit', ...names }]);
    expect(settingOffers(offered, from).find(({ kind }) => kind === 'namings')).toMatchObject({ state: 'new' });
  });
});
