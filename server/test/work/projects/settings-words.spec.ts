import type { ProjectSettings } from '@folvex/core';
import { settingsEditInWords } from '../../../src/work/projects/settings-words';

const recipe = (id: string, name: string, colour = 'full') => ({ id, name, colour });
const settings = (project: object, recipes: object[] = []): ProjectSettings =>
  ({ project: { number: '1', name: 'Quay', client: '', fields: {}, ...project }, groups: [], recipes }) as never;

describe('an edit of settings in words', () => {
  const full = recipe('a', 'Full colour');
  const black = recipe('b', 'All black');

  it.each([
    ['recipe All black', settings({}, [full, black]), settings({}, [full, { ...black, colour: 'black' }])],
    ['recipe All black', settings({}, [full]), settings({}, [full, black])],
    ['recipe Full colour', settings({}, [full, black]), settings({}, [black])],
    ['recipes', settings({}, [full, black]), settings({}, [])],
    ['recipes', settings({}, [full, black]), settings({}, [black, full])],
    ['pen schedule Ours', settings({}), settings({ penSchedules: [{ id: 'o', name: 'Ours', rules: [] }] })],
    ['client and group Plans', settings({}), { ...settings({ client: 'T' }), groups: [{ id: 'p', name: 'Plans' }] }],
    ['project fields', settings({}), settings({ fields: { owner: 'X' } })],
    ['settings', settings({}), settings({})],
  ])('is "%s"', (words, before, after) => {
    expect(settingsEditInWords(before, after)).toBe(words);
  });
});
