import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { deferred } from '../../src/ui/deferred';

describe('a deferred result', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it('is there at first, and follows changes in a later task, once for several', () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const input = signal(1);
    const work = jest.fn(() => input() * 10);
    const result = TestBed.runInInjectionContext(() => deferred(work, input));
    TestBed.tick();
    expect(result()).toBe(10);
    input.set(2);
    TestBed.tick();
    input.set(3);
    TestBed.tick();
    expect([result(), work.mock.calls.length]).toEqual([10, 1]);
    jest.runAllTimers();
    expect([result(), work.mock.calls.length]).toEqual([30, 2]);
  });
});
