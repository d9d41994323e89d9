import { nameOf, forEachPage, defineCheck } from '../finding';
import { printedPaper } from '../printed-paper';

/** The thinnest line of ISO 128-20, mm. */
const MIN_LINE_MM = 0.13;

/** Lines as thin as some plotters leave out, where neither pens nor recipe make them heavier. */
export const thinLines = defineCheck(
  {
    'line.thin': ['note', 'lines that print thinner than 0.13 mm'],
  },
  forEachPage(({ paper, lettering: { thinnest } }, sheet, input) => {
    const { recipe } = input;
    if (!thinnest || !recipe || (recipe.pens !== undefined && recipe.pens !== 'as-drawn')) return [];
    const { factor } = printedPaper(input, sheet, paper);
    const width = Math.max(thinnest.width * (recipe.weightFactor ?? 1) * factor, recipe.leastWeight ?? 0);
    if (width >= MIN_LINE_MM - 0.005) return [];
    const sentence = `Lines on ${thinnest.layer} of ${nameOf(sheet)} print only ${Math.round(width * 100) / 100} mm wide; set the recipe to print no line under ${MIN_LINE_MM} mm.`;
    return [{ code: 'line.thin', sentence }];
  }),
);
