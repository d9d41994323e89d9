import { PlotQueue, type Loaded } from '../src/plot-queue';

const roll = (width: number, leftMm: number): Loaded => ({ kind: 'roll', width, leftMm });
const job = { name: 'job', user: 'u', width: 610, length: 800, pieces: 2, isGrey: false, pdf: Buffer.alloc(0) };

describe('the queue of a plotter', () => {
  it('prints piece by piece at its speed, one job after the other', () => {
    const queue = new PlotQueue([roll(610, 10_000)], 100);
    const [first, second] = [queue.add(job), queue.add({ ...job, pieces: 1 })];
    expect([first.state, second.state, queue.state]).toEqual(['processing', 'pending', 'processing']);
    queue.run(8);
    expect(first).toMatchObject({ printed: 1, state: 'processing' });
    queue.run(12);
    expect([first.printed, first.state, second.state]).toEqual([2, 'completed', 'processing']);
    queue.run(4);
    expect([second.state, queue.state, queue.media[0]!.leftMm]).toEqual(['completed', 'idle', 10_000 - 3 * 800]);
  });

  it('stops where the roll runs out, and goes on with another one', () => {
    const queue = new PlotQueue([roll(610, 1000)], Infinity);
    const long = queue.add(job);
    expect([long.printed, long.state, queue.state, queue.reasons]).toEqual([
      ...[1, 'processing-stopped', 'stopped', ['media-empty-error']],
    ]);
    queue.load(roll(610, 5000));
    expect([long.state, queue.state, queue.media]).toEqual(['completed', 'idle', [roll(610, 4200)]]);
  });

  it('asks for paper that it does not hold', () => {
    const queue = new PlotQueue([roll(914, 5000)], Infinity);
    const other = queue.add(job);
    expect(queue.reasons).toEqual(['media-needed-error']);
    expect(queue.cancel(other.id)).toBe(true);
    expect(queue.cancel(other.id)).toBe(false);
    expect(queue.state).toBe('idle');
  });

  it('is stopped by hand', () => {
    const queue = new PlotQueue([roll(610, 5000)], Infinity);
    queue.isPaused = true;
    const waiting = queue.add(job);
    expect([waiting.state, queue.reasons]).toEqual(['processing-stopped', ['paused']]);
    queue.isPaused = false;
    queue.run(0);
    expect(waiting.state).toBe('completed');
  });
});
