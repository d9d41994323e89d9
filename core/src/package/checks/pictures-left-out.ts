import { drawingsShown } from '../../sheet/model';
import { extraFormatsOf } from '../extra-formats';
import { nameOf, forEachSheet, defineCheck } from '../finding';

const PICTURES = /^(PDF|PNG|JPEG|TIFF)/;

/** Sheets that show pictures, pages of PDFs or gradients, and are written as DXF, which has lines, areas and texts only. */
export const picturesLeftOut = defineCheck(
  {
    'dxf.pictures': ['note', 'a sheet with pictures that is written as DXF, which has none'],
    'dxf.gradients': ['note', 'a sheet with gradients that is written as DXF, in one colour each'],
  },
  forEachSheet((sheet, { package: pack, latest, pages }) => {
    if (!extraFormatsOf(pack, sheet.id).includes('dxf')) return [];
    const names = drawingsShown(sheet).flatMap((id) => {
      const drawing = latest?.get(id);
      return drawing && PICTURES.test(drawing.format ?? '') ? [drawing.name] : [];
    });
    const what = names.length > 0 ? names.join(', ') : pages?.get(sheet.id)?.pictures.length ? 'pictures' : '';
    const outlined = `${nameOf(sheet)} shows ${what}, of which its DXF file has only the outline.`;
    const plain = `${nameOf(sheet)} shows gradients; its DXF file has each in its average colour.`;
    return [
      ...(what === '' ? [] : [{ code: 'dxf.pictures' as const, sentence: outlined }]),
      ...(pages?.get(sheet.id)?.gradients ? [{ code: 'dxf.gradients' as const, sentence: plain }] : []),
    ];
  }),
);
