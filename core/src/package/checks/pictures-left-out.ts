import { drawingsShown } from '../../sheet/model';
import { extraFormatsOf, formatOptions } from '../extra-formats';
import { nameOf, forEachSheet, defineCheck } from '../finding';

const PICTURES = /^(PDF|PNG|JPEG|TIFF)/;

/** Sheets that show pictures, or pages of PDFs, and are written as DXF without files for them. */
export const picturesLeftOut = defineCheck(
  {
    'dxf.pictures': ['note', 'a sheet with pictures that is written as DXF without them'],
  },
  forEachSheet((sheet, { package: pack, latest, pages }) => {
    if (!extraFormatsOf(pack, sheet.id).includes('dxf')) return [];
    const { dxfPictures, dxfVersion } = formatOptions(pack);
    if (dxfPictures === 'files' && dxfVersion !== 'R12') return [];
    const names = drawingsShown(sheet).flatMap((id) => {
      const drawing = latest?.get(id);
      return drawing && PICTURES.test(drawing.format ?? '') ? [drawing.name] : [];
    });
    const what = names.length > 0 ? names.join(', ') : pages?.get(sheet.id)?.pictures.length ? 'pictures' : '';
    if (what === '') return [];
    const remedy =
      dxfVersion === 'R12' ? 'choose a later version of DXF, and pictures as files,' : 'have pictures written as files';
    const sentence = `${nameOf(sheet)} shows ${what}, of which its DXF file has only the outline; ${remedy} if they are needed.`;
    return [{ code: 'dxf.pictures', sentence }];
  }),
);
