import { dayIn, isPaused, scheduledTimes } from '../../src';

const ZONE = 'Europe/Oslo';
/** The next times as they are on a clock in UTC. */
const times = (pack: Parameters<typeof scheduledTimes>[0], after: string, count = 3, zone = ZONE): string[] =>
  scheduledTimes(pack, { after: Date.parse(after), zone, count }).map((ms) => new Date(ms).toISOString().slice(0, 16));

describe('when a package publishes by itself', () => {
  it('is on its days, at its time where the server is', () => {
    // 2026-12-04 is a Friday; Oslo is an hour ahead of UTC in winter.
    expect(times({ publishes: 'friday' }, '2026-12-01T12:00Z')).toEqual([
      ...['2026-12-04T15:00', '2026-12-11T15:00', '2026-12-18T15:00'],
    ]);
    expect(times({ publishes: 'weekday', publishAt: '08:30' }, '2026-12-04T07:30Z')).toEqual([
      ...['2026-12-07T07:30', '2026-12-08T07:30', '2026-12-09T07:30'],
    ]);
    expect(times({ publishes: 'day', publishAt: '00:05' }, '2026-12-04T23:00Z', 1, 'UTC')).toEqual([
      '2026-12-05T00:05',
    ]);
  });

  it('keeps its time of day when clocks change', () => {
    // In 2027 they go forward on March 28th (EU directive 2000/84/EC: the last Sunday).
    expect(times({ publishes: 'day' }, '2027-03-26T16:00Z')).toEqual([
      ...['2027-03-27T15:00', '2027-03-28T14:00', '2027-03-29T14:00'],
    ]);
    // 02:30 is not there that night; it is not lost.
    expect(times({ publishes: 'day', publishAt: '02:30' }, '2027-03-27T12:00Z', 2)).toHaveLength(2);
  });

  it('is not before the day until which it is paused', () => {
    const paused = { publishes: 'day', publishAt: '00:30', pausedUntil: '2027-01-04' } as const;
    expect(times(paused, '2026-12-20T12:00Z', 1)).toEqual(['2027-01-03T23:30']);
    expect(isPaused(paused, Date.parse('2027-01-03T22:59Z'), ZONE)).toBe(true);
    expect(isPaused(paused, Date.parse('2027-01-03T23:00Z'), ZONE)).toBe(false);
    expect(isPaused({}, 0, ZONE)).toBe(false);
  });

  it('is never where it is done by hand, or when something changed', () => {
    expect(times({}, '2026-12-01T12:00Z')).toEqual([]);
    expect(times({ publishes: 'change' }, '2026-12-01T12:00Z')).toEqual([]);
  });

  it('goes by the day where the server is', () => {
    expect(dayIn('Pacific/Auckland', new Date('2026-12-01T12:00Z'))).toBe('2026-12-02');
    expect(dayIn('America/New_York', new Date('2026-12-02T04:00Z'))).toBe('2026-12-01');
  });
});
