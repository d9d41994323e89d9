import { drawingsShown } from '../../sheet/model';
import { besideOf } from '../beside';
import { nameOf, ofEachSheet, type Check } from './finding';

const PICTURES = /^(PDF|PNG|JPEG|TIFF)/;

/** Sheets that show pictures, or pages of PDFs, and are written as DXF, which has lines and texts only. */
export const picturesLeftOut: Check = ofEachSheet((sheet, { package: pack, latest, pages }) => {
  if (!besideOf(pack, sheet.id).includes('dxf')) return [];
  const names = drawingsShown(sheet).flatMap((id) => {
    const drawing = latest?.get(id);
    return drawing && PICTURES.test(drawing.format ?? '') ? [drawing.name] : [];
  });
  const what = names.length > 0 ? names.join(', ') : pages?.get(sheet.id)?.pictures.length ? 'pictures' : '';
  if (what === '') return [];
  const sentence = `${nameOf(sheet)} shows ${what}, of which its DXF file has the outline only.`;
  return [{ code: 'dxf.pictures', severity: 'note', sentence }];
});
