import { choosePage, chooseMoved, NO_PAGES, positionBefore } from '../../../src/places/package/order/page-choice';
import { pagesMoved, pagesRemoved, pagesSkipped } from '../../../src/places/package/package-edits';
import type { StripPage } from '../../../src/state/packages/packages.selectors';
import type { SheetPackage } from '@folvex/core';
import { sheet } from '../../support/sheet';

const pack = { id: 'p', order: ['a', 'b', 'c', 'd', 'e'], after: { c: 'a' } } as unknown as SheetPackage;
const strip = pack.order.map((id): StripPage => ({ id, sheet: { ...sheet('1:50'), id }, options: {}, byRule: false }));

describe('several pages', () => {
  it.each([
    [[1, 3], 0, 'bdace'],
    [[0, 1], 3, 'cdeab'],
    [[4], 1, 'aebcd'],
    [[0, 2, 4], 99, 'bdace'],
    [[], 2, 'abcde'],
  ])('%j move together to %d', (positions, to, order) => {
    expect(pagesMoved(pack, strip, new Set(positions), to).order!.join('')).toBe(order);
  });

  it('moved by hand follow no other page any more', () => {
    expect(pagesMoved(pack, strip, new Set([2]), 0).after).toEqual({});
    expect(pagesMoved(pack, strip, new Set([1]), 0).after).toEqual({ c: 'a' });
  });

  it('are removed in one edit; what a rule takes in is left out instead', () => {
    const byRule = { ...strip[4]!, byRule: true };
    const change = pagesRemoved(pack, [strip[0]!, strip[1]!, byRule]);
    expect(change.order).toEqual(['c', 'd', 'e']);
    expect(change.pages).toEqual({ e: { skip: true } });
  });

  it('are left out and put back in, their other options kept', () => {
    const copied = { ...strip[0]!, options: { copies: 2, skip: true as const } };
    expect(pagesSkipped(pack, [copied, strip[1]!], true).pages).toEqual({
      a: { copies: 2, skip: true },
      b: { skip: true },
    });
    expect(pagesSkipped(pack, [copied], false).pages).toEqual({ a: { copies: 2 } });
  });
});

describe('the choice of pages', () => {
  it('is of one, of more, and of a range from the last one', () => {
    const one = choosePage(NO_PAGES, 3, 'alone');
    expect([...one.selected]).toEqual([3]);
    const more = choosePage(one, 1, 'also');
    expect([...more.selected]).toEqual([3, 1]);
    expect([...choosePage(more, 3, 'also').selected]).toEqual([1]);
    expect([...choosePage(more, 4, 'range').selected]).toEqual([1, 2, 3, 4]);
    expect([...chooseMoved(2, 3).selected]).toEqual([2, 3, 4]);
  });

  it('put before a page comes to the place that this leaves', () => {
    expect(positionBefore(new Set([0, 1]), 4)).toBe(2);
    expect(positionBefore(new Set([3]), 1)).toBe(1);
  });
});
