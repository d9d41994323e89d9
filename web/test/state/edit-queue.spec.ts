import type { Action } from '@ngrx/store';
import { Observable, of, Subject, throwError } from 'rxjs';
import { EditQueue } from '../../src/state/edits/edit-queue';

const action = (type: string): Action => ({ type });

/** Collects what an edit emits, and how it ends. */
function collect(edit: Observable<Action>): { seen: string[]; ended: () => string; leave: () => void } {
  const seen: string[] = [];
  let ended = '';
  const subscription = edit.subscribe({
    next: ({ type }) => seen.push(type),
    error: () => (ended = 'failed'),
    complete: () => (ended = 'done'),
  });
  return { seen, ended: () => ended, leave: () => subscription.unsubscribe() };
}

describe('the queue of edits', () => {
  it('sends the next one only when the one before is answered', () => {
    const queue = new EditQueue();
    const first = new Subject<Action>();
    const begun: string[] = [];
    const one = collect(
      queue.run(() => {
        begun.push('first');
        return first;
      }),
    );
    const two = collect(
      queue.run(() => {
        begun.push('second');
        return of(action('b'));
      }),
    );
    expect(begun).toEqual(['first']);
    first.next(action('a'));
    expect(two.seen).toEqual([]);
    first.complete();
    expect(begun).toEqual(['first', 'second']);
    expect([one.seen, two.seen]).toEqual([['a'], ['b']]);
    expect([one.ended(), two.ended()]).toEqual(['done', 'done']);
  });

  it('keeps the order of many', () => {
    const queue = new EditQueue();
    const answers = Array.from({ length: 5 }, () => new Subject<Action>());
    const begun: number[] = [];
    answers.forEach((answer, i) =>
      collect(
        queue.run(() => {
          begun.push(i);
          return answer;
        }),
      ),
    );
    for (const answer of answers) answer.complete();
    expect(begun).toEqual([0, 1, 2, 3, 4]);
  });

  it('goes on after one that failed, and after one that nobody waits for any longer', () => {
    const queue = new EditQueue();
    const failed = collect(queue.run(() => throwError(() => new Error('refused'))));
    const left = collect(queue.run(() => new Subject<Action>()));
    const last = collect(queue.run(() => of(action('c'))));
    expect(failed.ended()).toBe('failed');
    expect(last.seen).toEqual([]);
    left.leave();
    expect(last.seen).toEqual(['c']);
  });

  it('starts nothing before somebody asks for its answer', () => {
    const queue = new EditQueue();
    let begun = false;
    const edit = queue.run(() => {
      begun = true;
      return of(action('a'));
    });
    expect(begun).toBe(false);
    collect(edit);
    expect(begun).toBe(true);
  });
});
