import { statSync } from 'node:fs';
import { tool } from '../support/published';
import { sheet, written } from '../support/written';

const sheets = ['a', 'b'].map((id) => ({
  sheet: sheet(id, `A-${id}`),
  texts: Array.from({ length: 400 }, (_, i) => `Sheet ${id}, room ${(i * 7919) % 4001}`),
}));

/** A file with so many copies of the first sheet before the second. */
async function withCopies(copies: number, linearised: boolean): Promise<string> {
  const order = [...Array<string>(copies).fill('a'), 'b'];
  const [path] = await written({
    sheets,
    files: [{ path: `${copies}-${linearised}.pdf`, sheets: order }],
    recipe: linearised ? { linearised: true } : {},
  });
  return path!;
}

it.each([false, true])(
  'copies of a sheet are pages of their own with one content (linearised: %s)',
  async (linearised) => {
    const [one, five] = [await withCopies(1, linearised), await withCopies(5, linearised)];
    expect(tool('qpdf', '--check', five)).toContain('No syntax or stream encoding errors');
    expect(tool('pdfinfo', five)).toMatch(/Pages:\s+6/);
    const texts = tool('pdftotext', five, '-').split('\f');
    expect(texts[0]).toContain('Sheet a, room');
    expect(texts.slice(1, 5)).toEqual(Array(4).fill(texts[0]));
    expect(texts[5]).toContain('Sheet b, room');
    // Four pages more take less than a quarter of what one takes.
    const [small, large] = [statSync(one).size, statSync(five).size];
    expect(large - small).toBeLessThan(small / 4);
  },
);
