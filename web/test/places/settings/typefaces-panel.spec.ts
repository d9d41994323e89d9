import { MockStore } from '@ngrx/store/testing';
import { TestBed } from '@angular/core/testing';
import type { OwnTypeface } from '@folvex/core';
import { TypefacesPanel } from '../../../src/places/settings/typefaces-panel';
import { selectAllDrawings } from '../../../src/state/drawings/drawings.selectors';
import { NoticeActions } from '../../../src/state/notices/notices.actions';
import { SettingsActions } from '../../../src/state/project/project.actions';
import { projectFeature } from '../../../src/state/project/project.reducer';
import { SettingsEditor } from '../../../src/state/project/settings-editor';
import { choose, enter, field } from '../../support/panels';
import { all, show, text } from '../../support/parts';

const OFFICE: OwnTypeface = {
  id: 'office',
  name: 'Office Sans',
  file: 'office.ttf',
  asked: ['office'],
  embedding: 'none',
};
const HAND: OwnTypeface = { id: 'hand', name: 'Hand', file: 'hand.otf', asked: ['hand', 'romans'] };

async function panel(facts: object) {
  const changed = jest.fn();
  const fixture = await show(TypefacesPanel, {}, undefined, [
    { provide: SettingsEditor, useValue: { facts: () => facts, changeFacts: changed } },
  ]);
  const store = TestBed.inject(MockStore);
  const drawing = (name: string, ...fonts: string[]) => ({
    name,
    fonts: fonts.map((asked) => ({ asked, shown: 'sans' })),
  });
  store.overrideSelector(selectAllDrawings, [
    drawing('a.dxf', 'OFFICE.TTF', 'arial.ttf'),
    drawing('b.dxf', 'Arial', 'romans.shx'),
  ] as never);
  store.refreshState();
  await fixture.whenStable();
  return { fixture, changed, dispatched: jest.spyOn(store, 'dispatch') };
}

describe('The typefaces of a project', () => {
  it('say which file is being read', async () => {
    const { fixture } = await panel({});
    expect(text(fixture)).not.toContain('Reading');
    const store = TestBed.inject(MockStore);
    store.overrideSelector(projectFeature.selectTypefacesOnTheWay, ['office.ttc', 'hand.otf']);
    store.refreshState();
    await fixture.whenStable();
    expect(text(fixture)).toContain('Reading office.ttc …');
    expect(all(fixture, '[role=status] mat-progress-bar')).toHaveLength(1);
  });

  it('are listed with how they may be embedded, and with the fonts of the drawings that they are shown for', async () => {
    const { fixture } = await panel({ typefaces: [OFFICE, HAND] });
    expect(text(fixture)).toContain('Its licence forbids embedding: PDFs show it as outlines over searchable text.');
    const rows = all(fixture, 'tbody tr').map((row) => [...row.children].map((cell) => cell.textContent!.trim()));
    expect(rows).toEqual([
      ['arial.ttf', 'a.dxf, b.dxf', 'shipped sans serif'],
      ['OFFICE.TTF', 'a.dxf', 'Office Sans'],
      ['romans.shx', 'b.dxf', 'Hand'],
    ]);
  });

  it('take the names that are typed, and the fonts that are chosen', async () => {
    const { fixture, changed } = await panel({ typefaces: [OFFICE, HAND] });
    enter(field(fixture, 'Used for the fonts'), 'office, arial ');
    expect(changed).toHaveBeenLastCalledWith({ typefaces: [{ ...OFFICE, asked: ['office', 'arial'] }, HAND] });
    await choose(fixture, 'Typeface for romans.shx', 'Office Sans');
    expect(changed).toHaveBeenLastCalledWith({
      typefaces: [
        { ...OFFICE, asked: ['office', 'romans'] },
        { ...HAND, asked: ['hand'] },
      ],
    });
    await choose(fixture, 'Typeface for romans.shx', 'shipped sans serif');
    expect(changed).toHaveBeenLastCalledWith({ typefaces: [OFFICE, { ...HAND, asked: ['hand'] }] });
  });

  it('are sent to the server, and removed unless a text style uses them', async () => {
    const styles = [{ id: 's', name: 'Captions', size: 3, font: 'hand' }];
    const { fixture, changed, dispatched } = await panel({ typefaces: [OFFICE, HAND], textStyles: styles });
    const input = all(fixture, 'input[type=file]')[0] as HTMLInputElement;
    const file = new File(['x'], 'new.otf');
    Object.defineProperty(input, 'files', { value: [file] });
    input.dispatchEvent(new Event('change'));
    expect(dispatched).toHaveBeenCalledWith(SettingsActions.typefacesSent({ file }));
    all(fixture, '[aria-label="Remove Hand"]')[0]!.click();
    const sentence = 'The text style Captions uses this typeface; choose another one there first.';
    const problem = { code: 'typeface.used', sentence, place: {} } as const;
    expect(dispatched).toHaveBeenCalledWith(NoticeActions.requestRefused({ problem }));
    expect(changed).not.toHaveBeenCalled();
    all(fixture, '[aria-label="Remove Office Sans"]')[0]!.click();
    expect(changed).toHaveBeenCalledWith({ typefaces: [HAND] });
  });
});
