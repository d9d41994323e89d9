import { mtextLines, plainLines } from '../../../src/read/dxf/mtext';
import { decodeDxfText } from '../../../src/read/dxf/text';
import { dxf, entitiesOf, groups, read, table } from '../../support/dxf';

describe('hidden codes in TEXT', () => {
  it.each([
    ['%%c200', 'Ø200'],
    ['45%%d', '45°'],
    ['%%p0.5', '±0.5'],
    ['50%%%', '50%'],
    ['%%uunder%%u %%oover', 'under over'],
    ['%%065%%066', 'AB'],
    ['\\U+00E4\\U+03A9', 'äΩ'],
    // Shift-JIS 82A0 and GBK B0A1, from the Unicode Consortium's mapping tables (from memory).
    ['\\M+182A0', 'あ'],
    ['\\M+5B0A1', '啊'],
    ['\\xB0', '°'],
    ['a^Ib', 'a b'],
    ['2^ 3', '2^3'],
    ['100 % plain', '100 % plain'],
    ['%%z', '%%z'],
  ])('%s', (raw, shown) => {
    expect(decodeDxfText(raw)).toBe(shown);
  });
});

describe('codes in MTEXT', () => {
  it.each([
    ['one\\Ptwo', ['one', 'two']],
    ['{\\fArial|b0|i0;Bold} and {\\H2.5;tall}', ['Bold and tall']],
    ['\\A1;\\C3;\\W0.8;\\Q15;\\T1.1;x', ['x']],
    ['\\pi-3,l3,t3;list', ['list']],
    ['a\\~b', ['a\u00a0b']],
    ['\\S1/2;', ['1/2']],
    ['\\S+0.1^-0.2;', ['+0.1 -0.2']],
    ['\\Lunder\\l \\Oover\\o', ['under over']],
    ['\\ \\{ \\}', ['\\ { }']],
    ['C:\\x', ['C:\\x']],
    ['\\U+2205 %%d', ['∅ °']],
    ['cut \\fAria', ['cut ']],
  ])('%s', (raw, lines) => {
    expect(plainLines(mtextLines(raw, 1))).toEqual(lines);
  });

  it('keep the look of what they stand before, to the end of their braces', () => {
    const [line] = mtextLines('a{\\H2x;\\C1;b\\H0.5x;\\Lc}\\H5;\\fCourier|b1;d', 2.5);
    expect(line!.spans).toEqual([
      { text: 'a', height: 1 },
      { text: 'b', height: 2, colour: 0xff0000 },
      { text: 'c', height: 1, colour: 0xff0000, underline: true },
      { text: 'd', height: 2, font: 'Courier Bold' },
    ]);
    // Code \\c counts blue in the highest byte.
    expect(mtextLines('\\c255;x', 1)[0]!.spans).toEqual([{ text: 'x', height: 1, colour: 0xff0000 }]);
    expect(mtextLines('\\S3/4;', 1)[0]!.spans).toEqual([{ text: '', height: 1, over: '3', under: '4', bar: true }]);
  });

  it('is put together from its pieces of 250 characters', () => {
    const [text] = entitiesOf(
      groups(
        [0, 'MTEXT'],
        [8, '0'],
        [10, 0],
        [20, 0],
        [40, 2],
        [71, 1],
        [3, 'Waiting ro'],
        [3, 'om and ti'],
        [1, 'cket hall'],
      ),
    );
    expect(text).toMatchObject({ lines: ['Waiting room and ticket hall'], horizontal: 'left', vertical: 'top' });
  });

  it('is attached at one of nine points', () => {
    const at = (point: number) =>
      entitiesOf(groups([0, 'MTEXT'], [8, '0'], [10, 0], [20, 0], [40, 2], [71, point], [1, 'x']))[0];
    expect(at(5)).toMatchObject({ horizontal: 'centre', vertical: 'middle' });
    expect(at(9)).toMatchObject({ horizontal: 'right', vertical: 'bottom' });
  });
});

describe('TEXT', () => {
  const text = (...more: [number, string | number][]) =>
    entitiesOf(groups([0, 'TEXT'], [8, '0'], [10, 1], [20, 2], [40, 3], [1, 'x'], [11, 7], [21, 8], ...more))[0];

  it('is anchored at its second point unless it is left-aligned', () => {
    expect(text()).toMatchObject({ x: 1, y: 2, horizontal: 'left', vertical: 'baseline' });
    expect(text([72, 1])).toMatchObject({ x: 7, y: 8, horizontal: 'centre' });
    expect(text([72, 4])).toMatchObject({ x: 7, y: 8, horizontal: 'centre', vertical: 'middle' });
    expect(text([73, 3])).toMatchObject({ x: 7, y: 8, vertical: 'top' });
    expect(text([72, 5])).toMatchObject({ x: 1, y: 2, x2: 7, y2: 8, horizontal: 'fit' });
  });

  it('knows backwards and upside down', () => {
    expect(text([71, 6])).toMatchObject({ backwards: true, upsideDown: true });
  });

  it('keeps its style by name', () => {
    const styles = table('STYLE', groups([0, 'STYLE'], [2, 'NOTES'], [3, 'mono.ttf'], [41, 0.9]));
    const { drawing } = read(dxf({ tables: styles }));
    expect(drawing.textStyles).toContainEqual({ name: 'NOTES', font: 'mono.ttf', widthFactor: 0.9 });
  });
});

describe('the font of a text style', () => {
  const fontOf = (...style: [number, string | number][]): string | undefined => {
    const tables = table('STYLE', groups([0, 'STYLE'], [2, 'NOTES'], ...style));
    return read(dxf({ tables })).drawing.textStyles.find(({ name }) => name === 'NOTES')?.font;
  };

  it('is its file, else the family in its extended data with its style', () => {
    const family: [number, string | number][] = [
      [1001, 'ACAD'],
      [1000, 'Office Sans'],
    ];
    expect(fontOf([3, 'office.ttf'], ...family)).toBe('office.ttf');
    expect(fontOf([3, ''], ...family)).toBe('Office Sans');
    expect(fontOf([3, ''], ...family, [1071, 0x2000000 + 34])).toBe('Office Sans Bold');
    expect(fontOf([3, ''], ...family, [1071, 0x3000000])).toBe('Office Sans Bold Italic');
    expect(fontOf([3, ''])).toBe('');
  });
});
