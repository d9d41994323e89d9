import { changedTokens, referencesOf } from '../../src/pdf/body-tokens';

const bytes = (text: string): string[] => {
  const found: string[] = [];
  changedTokens(text, { reference: String, string: (some) => `<${found.push(String.fromCharCode(...some))}>` });
  return found;
};

describe('the text of an object', () => {
  it('has references, but not in its strings', () => {
    expect(referencesOf('<< /A 12 0 R /B [3 0 R 4 0 R] /C (5 0 R \\) 6 0 R) /D <37203020 52> /E 1.7 0 R >>')).toEqual([
      12, 3, 4,
    ]);
    expect(referencesOf('<< /A (un (balanced 7 0 R) 8 0 R) /B 9 0 R >>')).toEqual([9]);
  });

  it('has strings of the bytes that ISO 32000-2, 7.3.4.2 gives', () => {
    expect(bytes('(plain) (a \\(b\\) c) (x\\ny) (\\101\\7) (new\\\nline) (in (side))')).toEqual([
      'plain',
      'a (b) c',
      'x\ny',
      'A\u0007',
      'newline',
      'in (side)',
    ]);
    expect(bytes('<< /A <48 65 6> /B << /C <FEFF> >> >>')).toEqual(['He`', 'þÿ']);
  });

  it('stays as it is where nothing is changed', () => {
    const text = '<< /A 1 0 R /B (2 0 R) /C << /D <3C> >> >>';
    expect(changedTokens(text, { reference: (number) => `${number} 0 R` })).toBe(text);
  });
});
