import { FindingActions } from '../../src/state/findings/findings.actions';
import { findingsFeature } from '../../src/state/findings/findings.reducer';
import { indexOfFinding, sheetFindings } from '../../src/state/findings/sheet-findings';
import { ProjectActions } from '../../src/state/project/project.actions';
import { after } from '../support/state';

const FINDINGS = ['A-101', 'A-102'].map((number) => ({ about: number, number, sentence: `${number} is blank.` }));
const opened = FindingActions.findingOpened({ packageId: 'p', findings: FINDINGS, at: 0 });
const next = FindingActions.nextFindingOpened();

it('are gone through up to the last one', () => {
  expect(findingsFeature.selectAt(after(opened, next))).toBe(1);
  expect(findingsFeature.selectAt(after(opened, next, next))).toBe(1);
});

it('are forgotten when they are closed, and with their project', () => {
  expect(findingsFeature.selectFindings(after(opened, FindingActions.findingsClosed()))).toEqual([]);
  expect(findingsFeature.selectFindings(after(opened, ProjectActions.projectOpened({ projectId: 'q' })))).toEqual([]);
});

it('are those that lead to a sheet and are not accepted', () => {
  const found = [
    { sentence: 'No name.', place: {} },
    { about: 'a', sentence: 'Blank.', place: { sheet: 'A-101' }, field: 'sheet.title' },
    { about: 'a', sentence: 'The title block needs it.', place: { sheet: 'A-101' }, field: 'sheet.title' },
    { about: 'b', sentence: 'Blank.', place: { sheet: 'A-102' }, accepted: 'As agreed' },
    { about: 'divider', sentence: 'Blank.', place: { sheet: 'D1' } },
    { about: 'c', sentence: 'Old.', place: { sheet: 'A-103' } },
  ];
  const listed = sheetFindings(found, ['divider']);
  expect(found.map((one) => indexOfFinding(listed, one))).toEqual([-1, 0, 0, -1, -1, 1]);
  expect(listed).toEqual([
    { about: 'a', number: 'A-101', sentence: 'Blank.', field: 'sheet.title' },
    { about: 'c', number: 'A-103', sentence: 'Old.' },
  ]);
});
