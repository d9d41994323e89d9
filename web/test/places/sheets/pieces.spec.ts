import { signal } from '@angular/core';
import { bytesInWords } from '@folvex/core';
import { judgeFit } from '../../../src/places/gather/scale-fit';
import { Choice } from '../../../src/places/sheets/choice';
import { countOf, durationInWords, paperInWords, realSize, scalesInWords, sizeInWords } from '../../../src/ui/words';
import { sheet } from '../../support/sheet';

describe('choosing among sheets', () => {
  const choice = (): Choice => new Choice(signal(['a', 'b', 'c', 'd']));

  it('takes one, several, a range, all or none', () => {
    const made = choice();
    made.only('b');
    expect(made.chosen()).toEqual(['b']);
    made.toggle('d');
    expect(made.chosen()).toEqual(['b', 'd']);
    made.toggle('b');
    expect(made.chosen()).toEqual(['d']);
    made.only('a');
    made.upTo('c');
    expect(made.chosen()).toEqual(['a', 'b', 'c']);
    made.upTo('b');
    expect(made.chosen()).toEqual(['a', 'b']);
    made.allOrNone();
    expect(made.chosen()).toHaveLength(4);
    made.allOrNone();
    expect(made.chosen()).toEqual([]);
  });

  it('forgets what left the list, and keeps the keyboard inside it', () => {
    const list = signal(['a', 'b']);
    const made = new Choice(list);
    expect(made.cursor()).toBe('a');
    made.only('b');
    list.set(['a']);
    expect([made.chosen(), made.cursor()]).toEqual([[], 'a']);
  });
});

describe('what a scale comes to', () => {
  const room = { width: 791, height: 500 };

  it('is said in millimetres of paper', () => {
    // 51 × 33.3 m at 1:100.
    expect(judgeFit({ width: 51_000, height: 33_300 }, room, 1 / 100)).toEqual({
      words: 'At 1:100 the drawing measures 510 × 333 mm; the sheet has room for 791 × 500 mm.',
      placeable: true,
      fits: true,
    });
    expect(judgeFit({ width: 51_000, height: 33_300 }, room, 1 / 50).fits).toBe(false);
  });

  it('needs a unit and a scale', () => {
    expect(judgeFit(undefined, room, 1 / 50)).toMatchObject({
      placeable: false,
      words: expect.stringContaining('unit'),
    });
    expect(judgeFit({ width: 1, height: 1 }, room, undefined).placeable).toBe(false);
  });
});

describe('words', () => {
  it('for counts, sizes and times', () => {
    expect([countOf(1, 'file'), countOf(1200, 'file'), countOf(2, 'entity', 'entities')]).toEqual([
      '1 file',
      '1,200 files',
      '2 entities',
    ]);
    expect([814, 79_756, 4_240_000].map(bytesInWords)).toEqual(['814 bytes', '80 kB', '4.2 MB']);
    expect([420, 12_300, 200_000].map(durationInWords)).toEqual(['0.4 s', '12 s', '3 min 20 s']);
    expect(paperInWords({ width: 841, height: 594 })).toBe('A1 · 841 × 594 mm');
    expect(paperInWords({ width: 500, height: 300 })).toBe('500 × 300 mm');
    expect(sizeInWords({ width: 51_000, height: 33_300 })).toBe('51.0 × 33.3 m');
    expect(sizeInWords({ width: 120, height: 80 })).toBe('120 × 80 mm');
  });

  it('for the scales of a sheet', () => {
    expect(scalesInWords(sheet('1:50'))).toBe('1:50');
    expect(scalesInWords(sheet('1:50', '1:50', '1:20'))).toBe('1:50, 1:20');
    expect(scalesInWords(sheet('fit'))).toBe('fitted');
    expect(scalesInWords(sheet())).toBe('Not to scale');
    const laid = { ...sheet(), from: { drawing: 'd', layout: 'A-101' } };
    expect(scalesInWords(laid)).toBe('as laid out');
    expect(scalesInWords(laid, [{ scale: 1 / 50 }, { scale: 1 / 20 }, { scale: 1 / 50 }])).toBe('1:50, 1:20');
  });

  it('for the real size of a drawing, once its unit is known', () => {
    const drawing = { extents: [0, 0, 2, 1], unit: null, ownUnit: 'm' } as unknown as Parameters<typeof realSize>[0];
    expect(realSize(drawing)).toEqual({ width: 2000, height: 1000 });
    expect(realSize({ ...drawing, unit: 'in' })).toEqual({ width: 50.8, height: 25.4 });
    expect(realSize({ ...drawing, ownUnit: null })).toBeUndefined();
  });
});
