import { STROKE, templateFromBlock, titleBlocksIn, type Sheet } from '../../src/index';
import { block, dxf, groups, line, read } from '../support/dxf';
import { FONTS } from '../support/fonts';
import { composed, PROJECT, VIEW } from '../support/sheets';

const drawn = (parts: Parameters<typeof dxf>[0]) => read(dxf(parts)).drawing;

describe('a title block from a block of a drawing', () => {
  const blank = (tag: string, x: number, y: number): string =>
    groups([0, 'ATTDEF'], [8, '0'], [10, x], [20, y], [40, 3.5], [1, ''], [3, `${tag}?`], [2, tag], [70, 0]);
  const body =
    line(0, 0, 170, 0) +
    line(170, 0, 170, 40) +
    line(170, 40, 0, 40) +
    line(0, 40, 0, 0) +
    blank('SHEET_TITLE', 5, 25) +
    blank('SHEET_NO', 120, 5) +
    blank('SCALE', 5, 5) +
    blank('CHECKED_BY', 60, 5);
  const drawing = drawn({ blocks: block('OFFICE', body) + block('DOOR', line(0, 0, 1, 1) + blank('NO', 0, 0)) });
  const found = titleBlocksIn(drawing, FONTS);

  it('is found by its blanks, with its size in mm', () => {
    expect(found).toMatchObject([{ name: 'OFFICE', width: 170, height: 40 }]);
    expect(found[0]!.blanks.map(({ tag, prompt }) => [tag, prompt])).toContainEqual(['SCALE', 'SCALE?']);
  });

  it('is filled with what the tags mean, at the places of the blanks; others are typed', () => {
    const template = templateFromBlock('office', 'd', found[0]!);
    const sheet: Partial<Sheet> = {
      frame: 'plain',
      titleBlock: { template: 'office', fields: { 'checked-by': 'O. L.' } },
      views: [{ ...VIEW, window: [0, 0, 500, 500] }],
    };
    const made = composed(drawing, sheet, { project: { ...PROJECT, titleBlocks: [template] } });
    const at = (text: string): number[] => {
      const { x, y } = made.page.texts.find((one) => one.text === text)!;
      return [x / 100, y / 100];
    };
    // The block lies in the lower right corner of a frame 10 mm inside the paper: its left edge at 841 - 10 - 170.
    expect(at('Ground floor plan')).toEqual([666, 35]);
    expect(at('A-101')).toEqual([781, 15]);
    expect(at('1:50')).toEqual([666, 15]);
    expect(at('O. L.')).toEqual([721, 15]);
  });

  it('draws all of it but the blanks, and no lines round the blanks', () => {
    const template = templateFromBlock('office', 'd', found[0]!);
    const project = { ...PROJECT, titleBlocks: [template] };
    const made = composed(drawing, { titleBlock: { template: 'office', fields: {} } }, { project });
    const strokes = [...made.page.kind].filter((kind) => kind === STROKE);
    // Four lines of the block, and the block's own outline.
    expect(strokes).toHaveLength(5);
  });
});
