import type { Note } from '@folvex/core';
import { movedNote, newNote, noteId, noteName, notesOn, shownId } from '../../../src/places/sheets/sheet/notes';

const cloud: Note = { id: 'n1', kind: 'cloud', at: [10, 20], to: [40, 60], text: 'P03' };

describe('notes on the open sheet', () => {
  it('lie where they were composed, moved along with what was changed since', () => {
    const composed = [{ id: 'n1', at: [5, 20] as [number, number], box: { xmin: 5, ymin: 20, xmax: 35, ymax: 60 } }];
    const on = notesOn([cloud, { ...cloud, id: 'n2' }], composed);
    expect(on).toEqual([{ id: 'note:n1', scale: 0, box: { xmin: 10, ymin: 20, xmax: 40, ymax: 60 } }]);
  });

  it('move whole, what they point at included', () => {
    expect(movedNote(cloud, 1, -2)).toMatchObject({ at: [11, 18], to: [41, 58] });
    expect(movedNote({ id: 't', kind: 'text', at: [1, 1] }, 1, 1)).toEqual({ id: 't', kind: 'text', at: [2, 2] });
  });

  it('begin about a place under an id of their own; a cloud with the revision of its sheet', () => {
    expect(newNote('text', [cloud], [100, 50], 'P04')).toMatchObject({ id: 'n2', at: [100, 50], text: 'Note' });
    expect(newNote('cloud', [], [100, 50], 'P04')).toMatchObject({
      id: 'n1',
      at: [70, 35],
      to: [130, 65],
      text: 'P04',
    });
    expect(newNote('cloud', [], [100, 50], '')).not.toHaveProperty('text');
    expect(newNote('line', [], [100, 50], 'P04')).toMatchObject({ at: [70, 35], to: [130, 35] });
  });

  it('have names, and ids apart from those of views', () => {
    expect(noteName({ id: 't', kind: 'text', at: [0, 0], text: 'First line\nsecond' })).toBe('Text: First line');
    expect(noteName({ id: 'l', kind: 'line', at: [0, 0] })).toBe('Line');
    expect(noteId(shownId('n1'))).toBe('n1');
    expect(noteId('v1')).toBeNull();
  });
});
