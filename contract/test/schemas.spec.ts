import {
  drawingChangeSchema,
  newFrameSheetsSchema,
  newPackageSchema,
  newSheetSchema,
  packageChangeSchema,
  path,
  ROUTES,
  sheetChangeSchema,
} from '../src/index';

const SHEET = {
  drawing: 'd',
  number: 'A-101',
  title: '',
  group: '',
  paper: { name: 'A1', orientation: 'portrait' },
  scale: '1:50',
};
const FRAMES = { ...{ layer: 'F', order: 'rows', first: 'A-1', group: '' }, fit: { by: 'frame' }, skipped: [] };

describe('what the server takes', () => {
  it.each([
    ['a new sheet', newSheetSchema, SHEET],
    ['a new sheet on paper of its own size', newSheetSchema, { ...SHEET, paper: { size: [500, 300] } }],
    ['a change of a sheet', sheetChangeSchema, { title: '' }],
    ['no change of a sheet', sheetChangeSchema, {}],
    ['a new order', packageChangeSchema, { order: ['a', 'b'] }],
    ['new rules', packageChangeSchema, { names: { file: '[page]', folder: '', bundle: '' } }],
    ['a unit', drawingChangeSchema, { unit: 'ft' }],
    ['a new package', newPackageSchema, { name: 'Permit' }],
    ['frames', newFrameSheetsSchema, FRAMES],
    ['frames at one scale', newFrameSheetsSchema, { ...FRAMES, fit: { by: 'scale', scale: '1:50' }, skipped: [2] }],
  ])('is %s', (_, schema, value) => {
    expect(schema.isValidSync(value)).toBe(true);
  });

  it.each([
    ['a sheet without a number', newSheetSchema, { ...SHEET, number: '' }],
    ['a sheet at no scale', newSheetSchema, { ...SHEET, scale: 'about' }],
    ['a sheet at a scale at which nothing is seen', newSheetSchema, { ...SHEET, scale: '1:99999999' }],
    ['a sheet without a drawing', newSheetSchema, { ...SHEET, drawing: '' }],
    ['paper that is too large', newSheetSchema, { ...SHEET, paper: { size: [500, 1e6] } }],
    ['paper that is too small', newSheetSchema, { ...SHEET, paper: { size: [5, 300] } }],
    ['paper lying askew', newSheetSchema, { ...SHEET, paper: { name: 'A1', orientation: 'askew' } }],
    ['a key too many', newSheetSchema, { ...SHEET, admin: true }],
    ['a number that is none', sheetChangeSchema, { number: '' }],
    ['a title that is not text', sheetChangeSchema, { title: 5 }],
    ['a bundling that is none', packageChangeSchema, { bundling: 'zip' }],
    ['an order of numbers', packageChangeSchema, { order: [1] }],
    ['rules in part', packageChangeSchema, { names: { file: 'x' } }],
    ['a rule without end', packageChangeSchema, { names: { file: 'x'.repeat(501), folder: '', bundle: '' } }],
    ['a unit that is none', drawingChangeSchema, { unit: 'cubit' }],
    ['a package without a name', newPackageSchema, { name: '' }],
    ['frames in no order', newFrameSheetsSchema, { ...FRAMES, order: 'spiral' }],
    ['frames on one paper that is not named', newFrameSheetsSchema, { ...FRAMES, fit: { by: 'paper' } }],
    ['frames of which a half one is left out', newFrameSheetsSchema, { ...FRAMES, skipped: [0.5] }],
    ['frames without a first number', newFrameSheetsSchema, { ...FRAMES, first: '' }],
  ])('is not %s', (_, schema, value) => {
    expect(schema.isValidSync(value)).toBe(false);
  });
});

describe('addresses', () => {
  it('have their parameters filled in, whatever they hold', () => {
    expect(path(ROUTES.runFile, { run: 'r/1', index: 0 })).toBe('/api/runs/r%2F1/files/0');
    expect(path(ROUTES.health)).toBe('/api/health');
  });

  it('are all different', () => {
    expect(new Set(Object.values(ROUTES)).size).toBe(Object.keys(ROUTES).length);
  });
});
