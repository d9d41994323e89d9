import { extraFormatsOf } from '../extra-formats';
import { nameOf, forEachPage, defineCheck } from '../finding';

/** Sheets written as DXF that show what the format has nothing for. */
export const simplifiedInDxf = defineCheck(
  {
    'dxf.gradients': ['note', 'a sheet with gradients that is written as DXF, in one colour each'],
    'dxf.transparency': [
      'note',
      'a sheet with masks or groups that are transparent as a whole, which DXF does not have',
    ],
  },
  forEachPage(({ gradients, transparencyGroups }, sheet, { package: pack }) => {
    if (!extraFormatsOf(pack, sheet.id).includes('dxf')) return [];
    const name = nameOf(sheet);
    const averaged = `${name} shows gradients; its DXF file has each in its average colour.`;
    const flattened = `${name} shows masks or groups that are transparent as a whole; in its DXF file nothing is masked, and members of groups show through each other.`;
    return [
      ...(gradients ? [{ code: 'dxf.gradients' as const, sentence: averaged }] : []),
      ...(transparencyGroups ? [{ code: 'dxf.transparency' as const, sentence: flattened }] : []),
    ];
  }),
);
