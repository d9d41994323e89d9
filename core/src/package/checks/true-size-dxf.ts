import { formatScale } from '../../measure/scale';
import { isToScale } from '../../page/resize';
import { mainScale } from '../../sheet/true-size';
import { extraFormatsOf } from '../extra-formats';
import { nameOf, forEachPage, defineCheck } from '../finding';

/** Sheets whose DXF files are to have true size and do not, or not in all views. */
export const trueSizeDxf = defineCheck(
  {
    'dxf.no-scale': ['note', 'a sheet that shows nothing at a scale, so that its DXF file is as large as the paper'],
    'dxf.other-scales': ['warning', 'views that do not have their true size in the DXF file of their sheet'],
  },
  forEachPage((page, sheet, { package: pack }) => {
    const { dxfSize } = pack.extraFormats ?? {};
    if (!dxfSize || !extraFormatsOf(pack, sheet.id).includes('dxf')) return [];
    const main = mainScale(page);
    if (main === undefined) {
      const sentence = `${nameOf(sheet)} shows nothing at a scale; its DXF file is as large as the paper.`;
      return [{ code: 'dxf.no-scale', sentence }];
    }
    const others = [...page.views, ...page.viewports].filter(({ scale }) => !isToScale(scale / main));
    if (dxfSize !== 'sheet' || others.length === 0) return [];
    const what = `${others.length === 1 ? 'a view' : `${others.length} views`} at ${[...new Set(others.map(({ scale }) => formatScale(scale)))].join(', ')}`;
    const sentence = `In the DXF file of ${nameOf(sheet)}, only views at ${formatScale(main)} have their true size, not ${what}; choose “true size, drawings only”, or put the others on sheets of their own.`;
    return [{ code: 'dxf.other-scales', sentence }];
  }),
);
