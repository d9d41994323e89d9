import { visualOrder, letterOf } from '../../src/text/reading';

describe('lines with letters from right to left', () => {
  it('stand as they are where there are none', () => {
    const line = 'Waiting room 24.50 m²';
    expect(visualOrder(line)).toBe(line);
  });

  it('are turned round, numbers among them are not (Unicode, UAX 9)', () => {
    expect(visualOrder('אבג')).toBe('גבא');
    expect(visualOrder('חדר 12')).toBe('12 רדח');
    expect(visualOrder('A-101 חדר')).toBe('A-101 רדח');
  });

  it('have brackets that close what they opened', () => {
    expect(visualOrder('(אב)')).toBe('(בא)');
  });

  it('have Arabic letters in the forms in which they join, which still mean the letters', () => {
    // Beh, alef, beh: the first joins forward, alef only backward, so that the last stands alone.
    const set = visualOrder('باب');
    expect([...set].map((letter) => letter.codePointAt(0)!.toString(16))).toEqual(['fe8f', 'fe8e', 'fe91']);
    expect([...set].map((letter) => String.fromCodePoint(letterOf(letter.codePointAt(0)!)))).toEqual(
      [...'باب'].reverse(),
    );
    // Lam and meem join on both sides: the middle one in its middle form.
    expect([...visualOrder('سلم')].map((letter) => letter.codePointAt(0)!.toString(16))).toEqual([
      'fee2',
      'fee0',
      'feb3',
    ]);
  });

  it('know letters of other languages by Unicode itself: Persian gaf and chacheem', () => {
    expect([...visualOrder('گچ')].map((letter) => letter.codePointAt(0)!.toString(16))).toEqual(['fb7b', 'fb94']);
  });

  it('have forms for every letter that Unicode decomposes to the letter itself', () => {
    for (let code = 0xfe81; code <= 0xfef4; code++) {
      const letter = String.fromCodePoint(code).normalize('NFKC');
      if ([...letter].length === 1) expect(letterOf(code)).toBe(letter.codePointAt(0));
    }
  });
});
