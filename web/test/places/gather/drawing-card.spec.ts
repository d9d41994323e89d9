import { TestBed } from '@angular/core/testing';
import type { DrawingInfo } from '@folvex/contract';
import type { OwnTypeface } from '@folvex/core';
import { DrawingCard } from '../../../src/places/gather/drawing-card';
import { withOpenWarnings } from '../../../src/places/gather/open-warnings';
import { stateOf } from '../../../src/places/gather/sorting';
import { ProjectActions } from '../../../src/state/project/project.actions';
import { all, show, text } from '../../support/parts';
import { after } from '../../support/state';

const DRAWING = {
  ...{ id: 'd', name: 'set.pdf', format: 'PDF 1.7', unit: 'mm', ownUnit: 'mm', bytes: 1000, entities: 1, blocks: 0 },
  ...{ layers: [], layouts: [], extents: null, references: [], titleBlocks: [], earlier: [], windows: [], version: 1 },
  unitJudgement: { sure: 'stated' },
  fonts: [
    { asked: 'OFFICE.TTF', shown: 'sans' },
    { asked: 'simplex.shx', shown: 'technical' },
  ],
  warnings: [{ code: 'pdf.annotations', sentence: 'Page 1 has a comment.', place: {} }],
} as unknown as DrawingInfo;
const OFFICE: OwnTypeface = { id: 'office', name: 'Office Sans', file: 'office.ttf', asked: ['office'] };

function card(drawing = DRAWING, present: ReadonlySet<string> = new Set()) {
  const project = { number: '', name: '', client: '', fields: {}, typefaces: [OFFICE] };
  const info = { id: '2617', project, groups: [], recipes: [], drawings: [], sheets: [], packages: [], runs: [] };
  const state = after(
    ProjectActions.projectOpened({ projectId: '2617' }),
    ProjectActions.projectArrived({ info: info as never }),
  );
  return show(DrawingCard, { drawing, uses: 0, present }, state);
}

const press = (fixture: Awaited<ReturnType<typeof card>>, words: string): void =>
  all(fixture, 'button')
    .find((button) => button.textContent!.includes(words))!
    .click();

describe('the card of a drawing', () => {
  it('says which typeface each of its fonts is shown in', async () => {
    const fixture = await card();
    press(fixture, '2 fonts');
    await fixture.whenStable();
    expect(text(fixture)).toContain('OFFICE.TTF shown in Office Sans');
    expect(text(fixture)).toContain('simplex.shx shown in the shipped technical');
  });

  it('warns of a file that is referred to until it is there', async () => {
    const warnings = [{ code: 'dxf.external', sentence: 'SURVEY is missing.', place: {}, refersTo: 'Survey.dxf' }];
    const drawing = { ...DRAWING, warnings, references: ['Survey.dxf'] } as DrawingInfo;
    const cardOf = (present: ReadonlySet<string>) => card(withOpenWarnings(drawing, present), present);
    expect(text(await cardOf(new Set()))).toContain('1 warning');
    expect(stateOf(withOpenWarnings(drawing, new Set()), 1)).toBe('has warnings');
    TestBed.resetTestingModule();
    const present = new Set(['survey.dxf']);
    expect(text(await cardOf(present))).not.toContain('warning');
    expect(stateOf(withOpenWarnings(drawing, present), 1)).toBe('ready');
  });

  it('offers to merge comments where there are some', async () => {
    const fixture = await card();
    const merged = jest.fn();
    fixture.componentInstance.mergeWanted.subscribe(merged);
    press(fixture, '1 warning');
    await fixture.whenStable();
    press(fixture, 'Merge the comments into the pages');
    expect(merged).toHaveBeenCalledTimes(1);
    fixture.componentRef.setInput('drawing', {
      ...DRAWING,
      warnings: [{ ...DRAWING.warnings[0]!, code: 'pdf.undrawn' }],
    });
    await fixture.whenStable();
    expect(text(fixture)).not.toContain('Merge');
  });
});
