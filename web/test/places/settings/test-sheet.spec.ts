import { TestSheet } from '../../../src/places/settings/test-sheet';
import { SettingsEditor } from '../../../src/state/project/settings-editor';
import { choose } from '../../support/panels';
import { all, show } from '../../support/parts';

describe('the test sheet', () => {
  it('is opened on the paper that is chosen, one of the project too', async () => {
    const papers = [{ name: 'Roll', short: 600, long: 900 }];
    const fixture = await show(TestSheet, {}, undefined, [
      { provide: SettingsEditor, useValue: { facts: () => ({ papers }) } },
    ]);
    const link = () => all(fixture, 'a')[0]!.getAttribute('href');
    expect(link()).toBe('/api/projects/2617/test-sheets/A3');
    await choose(fixture, 'Paper', 'Roll');
    expect(link()).toBe('/api/projects/2617/test-sheets/Roll');
  });
});
