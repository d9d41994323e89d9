import fc from 'fast-check';
import { ByteWriter } from '../../src/pdf/bytes';

const written = (write: (out: ByteWriter) => void): string => {
  const out = new ByteWriter(1);
  write(out);
  return new TextDecoder('latin1').decode(out.taken());
};

const LETTER_L = 'l'.charCodeAt(0);
const whole = fc.oneof(
  fc.integer(),
  fc.integer({ min: -1_100_000, max: 1_100_000 }),
  fc.constantFrom(0, 9, 10, 99, 100, 999, 1000, 1001, 9999, 10_000, 999_999, 1_000_000, 1_000_001, 4_294_967_296),
);

it('writes whole numbers as JavaScript does, at every number of figures', () => {
  fc.assert(
    fc.property(whole, whole, (x, y) => {
      expect(written((out) => out.pair(x, y, LETTER_L))).toBe(`${x} ${y} l\n`);
      expect(written((out) => out.integer(x))).toBe(`${x} `);
    }),
  );
});

it('writes decimals in the shortest form that is right to the last of them', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -99_999_999, max: 99_999_999 }),
      fc.integer({ min: 0, max: 5 }),
      (figures, places) => {
        const value = figures / 10 ** places;
        const text = written((out) => out.decimal(value, places));
        expect(text).toMatch(/^-?(0|[1-9]\d*)(\.\d*[1-9])? $/);
        expect(Number(text)).toBe(value);
      },
    ),
  );
});
