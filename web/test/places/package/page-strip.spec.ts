import { PageStrip } from '../../../src/places/package/order/page-strip';
import type { StripPage } from '../../../src/state/packages/packages.selectors';
import { all, show } from '../../support/parts';
import { sheet } from '../../support/sheet';

describe('the strip of pages', () => {
  const sheets = ['A-101', 'A-102', 'A-201'].map((number, i) => ({ ...sheet('1:50'), id: `s${i}`, number }));
  const sources = Object.fromEntries(sheets.map(({ id }) => [id, { url: id, version: '' }]));

  async function strip(skipped = -1) {
    const strip = sheets.map((one, i): StripPage => {
      return { id: one.id, sheet: one, options: i === skipped ? { skip: true } : {}, byRule: false };
    });
    const fixture = await show(PageStrip, { strip, sources });
    const moves: [number[], number][] = [];
    const out: number[] = [];
    fixture.componentInstance.moved.subscribe(({ positions, to }) => moves.push([[...positions], to]));
    fixture.componentInstance.removed.subscribe((positions) => out.push(...positions));
    const press = (at: number, key: string, shiftKey = false): boolean =>
      all(fixture, '.page')[at]!.dispatchEvent(
        new KeyboardEvent('keydown', { key, shiftKey, bubbles: true, cancelable: true }),
      );
    return { fixture, moves, out, press };
  }

  it('numbers the pages in reading order', async () => {
    const { fixture } = await strip();
    expect(all(fixture, '.page').map((page) => page.getAttribute('aria-label'))).toEqual([
      'Page 1, A-101 Plan',
      'Page 2, A-102 Plan',
      'Page 3, A-201 Plan',
    ]);
  });

  it('holds eighty pages at once, and turns to the others', async () => {
    const many = Array.from({ length: 200 }, (_, i): StripPage => {
      const one = { ...sheet('1:50'), id: `n${i}`, number: `N-${i + 1}` };
      return { id: one.id, sheet: one, options: {}, byRule: false };
    });
    const known = Object.fromEntries(many.map(({ id }) => [id, { url: id, version: '' }]));
    const fixture = await show(PageStrip, { strip: many, sources: known });
    const moves: [number[], number][] = [];
    fixture.componentInstance.moved.subscribe(({ positions, to }) => moves.push([[...positions], to]));
    const firstShown = (): string => all(fixture, '.page b')[0]!.textContent!;
    expect([all(fixture, '.page').length, firstShown()]).toEqual([80, 'N-1']);
    const later = all(fixture, '.turn button')[0]!;
    expect(later.textContent).toContain('120 later pages');
    later.click();
    await fixture.whenStable();
    expect(firstShown()).toBe('N-41');
    const key = new KeyboardEvent('keydown', { key: 'ArrowRight', shiftKey: true, bubbles: true, cancelable: true });
    all(fixture, '.page')[0]!.dispatchEvent(key);
    expect(moves).toEqual([[[40], 41]]);
  });

  it('counts no page that is left out', async () => {
    const { fixture } = await strip(1);
    expect(all(fixture, '.page').map((page) => page.getAttribute('aria-label'))).toEqual([
      'Page 1, A-101 Plan',
      'Left out, at 2, A-102 Plan',
      'Page 2, A-201 Plan',
    ]);
  });

  it('is moved by keys', async () => {
    const { moves, out, press } = await strip();
    press(0, 'ArrowRight', true);
    press(1, 'ArrowLeft', true);
    press(1, 'End', true);
    press(0, 'ArrowLeft', true);
    press(0, 'ArrowRight');
    press(2, 'Delete');
    expect(moves).toEqual([
      [[0], 1],
      [[1], 0],
      [[1], 2],
    ]);
    expect(out).toEqual([2]);
  });

  it('is removed by its button, too', async () => {
    const { fixture, out } = await strip();
    all(fixture, '[aria-label="Remove A-102"]')[0]!.click();
    expect(out).toEqual([1]);
  });

  it('leaves other keys alone', async () => {
    const { press } = await strip();
    expect(press(0, 'ArrowRight')).toBe(false);
    expect(press(0, 'x')).toBe(true);
  });
});
