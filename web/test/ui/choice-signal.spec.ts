import { signal } from '@angular/core';
import { choice, choiceOf } from '../../src/ui/choice-signal';

describe('a choice with a default', () => {
  it('stays while what its default comes from is replaced by its like, and goes with another default', () => {
    const sheet = signal({ title: 'Roof' });
    const title = choice(() => sheet().title);
    expect(title()).toBe('Roof');
    title.set('Roof plan');
    sheet.set({ title: 'Roof' });
    expect(title()).toBe('Roof plan');
    sheet.set({ title: 'Section' });
    expect(title()).toBe('Section');
  });

  it('of one thing is worked out anew for another thing only', () => {
    const template = signal({ id: 'corner', cells: 1 });
    const cell = choiceOf<string, number | null>(
      () => template().id,
      () => null,
    );
    cell.set(4);
    template.set({ id: 'corner', cells: 2 });
    expect(cell()).toBe(4);
    template.set({ id: 'strip', cells: 2 });
    expect(cell()).toBeNull();
  });
});
