import { layoutFields, readDxf } from '../../src/index';
import { drawnBy } from '../support/ezdxf';

describe('the title block of a layout', () => {
  const { bytes } = drawnBy('write_title_blocks.py');
  const read = readDxf(bytes, 'titled.dxf');
  if (!read.ok) throw new Error(read.problem.sentence);
  const fieldsOf = (name: string) => layoutFields(read.drawing.spaces.find((space) => space.name === name)!);

  it('says number, title, revision and date by the usual names of its tags', () => {
    expect(fieldsOf('Plan, ground floor')).toEqual({
      number: 'A-101',
      title: 'Ground floor east part',
      revision: 'P02',
      date: '2026-11-12',
    });
  });

  it('says what it holds; a date that cannot be told is left out, a symbol is no title block', () => {
    expect(fieldsOf('A-102 Upper floor')).toEqual({ title: 'Upper floor, revised', revision: 'C' });
    expect(fieldsOf('A-103 Roof')).toEqual({});
  });

  it('takes the title and the date that are surely meant, whatever stands before them', () => {
    expect(fieldsOf('A-104 Section')).toEqual({
      title: 'Section through the ward',
      revision: 'B',
      date: '2026-11-20',
    });
  });
});
