import { extraFormatsOf } from '../extra-formats';
import { nameOf, forEachPage, defineCheck } from '../finding';

/** Sheets that show gradients and are written as DXF, whose areas have one colour each. */
export const gradientsAveraged = defineCheck(
  {
    'dxf.gradients': ['note', 'a sheet with gradients that is written as DXF, in one colour each'],
  },
  forEachPage(({ gradients }, sheet, { package: pack }) => {
    if (!gradients || !extraFormatsOf(pack, sheet.id).includes('dxf')) return [];
    const sentence = `${nameOf(sheet)} shows gradients; its DXF file has each in its average colour.`;
    return [{ code: 'dxf.gradients', sentence }];
  }),
);
