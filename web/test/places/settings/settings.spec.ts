import { TestBed } from '@angular/core/testing';
import type { Recipe } from '@folvex/core';
import { estimatedAt } from '../../../src/places/package/run/estimated-at';
import {
  fieldOf,
  fieldRow,
  paperOfRow,
  contactOf,
  contactRow,
  styleOf,
  styleRow,
} from '../../../src/places/settings/lists';
import { differsFromDefault, displayValue, freeId, recipeFields, withDefault, withField } from '@folvex/core';
import { Rows, type Column, type Row } from '../../../src/forms/rows';
import { enter } from '../../support/panels';

const COLUMNS: readonly Column[] = [
  { key: 'name', caption: 'Name', kind: 'text', pattern: /^[a-z-]+$/, patternWords: 'made of letters' },
  { key: 'size', caption: 'Height, mm', kind: 'number', least: 1, most: 20 },
  { key: 'on', caption: 'Required', kind: 'check' },
];

async function list(rows: Row[]) {
  const fixture = TestBed.createComponent(Rows);
  const inputs = {
    name: 'Styles',
    columns: COLUMNS,
    rows,
    blank: { name: 'new', size: 2.5, on: false },
    adding: 'Add',
    ordered: true,
  };
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  const changes: Row[][] = [];
  fixture.componentInstance.changed.subscribe((changed) => changes.push(changed));
  fixture.detectChanges();
  await fixture.whenStable();
  const host = fixture.nativeElement as HTMLElement;
  const type = (label: string, value: string): void => {
    const field = host.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
    enter(field, value);
    fixture.detectChanges();
  };
  const press = (label: string): void =>
    [...host.querySelectorAll('button')]
      .find((button) => button.getAttribute('aria-label') === label || button.textContent?.trim() === label)!
      .click();
  return { changes, host, type, press };
}

const A: Row = { name: 'a', size: 2.5, on: false };
const B: Row = { name: 'b', size: 5, on: true };

describe('a list of settings', () => {
  it('is changed in its places, a comma for a point allowed', async () => {
    const { changes, type } = await list([A, B]);
    type('Height, mm of a', '3,5');
    type('Name of b', ' c ');
    expect(changes).toEqual([
      [{ ...A, size: 3.5 }, B],
      [A, { ...B, name: 'c' }],
    ]);
  });

  it.each([
    ['Height, mm of a', '0.5', 'Type a number from 1 to 20.'],
    ['Height, mm of a', '', 'Type a number from 1 to 20.'],
    ['Name of a', 'two words', 'Name is made of letters.'],
    ['Name of a', ' ', 'Name must not be blank.'],
    ['Name of a', 'B', 'B is there already; give each its own name.'],
  ])('says why %s cannot be "%s", and passes nothing on', async (label, value, sentence) => {
    const { changes, type, host } = await list([A, { ...B, name: 'b' }]);
    // The pattern is stricter than the test of what is there already.
    type(label, value === 'B' ? 'b' : value);
    expect(host.querySelector('mat-error')!.textContent!.trim()).toBe(sentence.replace(/^B/, 'b'));
    expect(changes).toEqual([]);
  });

  it('is added to, put in order and taken from', async () => {
    const { changes, press } = await list([A, B]);
    press('Add');
    press('Move b up');
    press('Remove a');
    expect(changes).toEqual([[A, B, { name: 'new', size: 2.5, on: false }], [B, A], [B]]);
  });
});

describe('the fields of a recipe', () => {
  const plain: Recipe = { id: 'r', name: 'Plain', colour: 'full', layers: 'shown' };
  const full: Recipe = {
    ...plain,
    ...{ colour: 'greys', pens: 'iso-five', leastWeight: 0.13, weightFactor: 0.5, pictureDpi: 150, pictureQuality: 80 },
    ...{
      pictureTone: 'bilevel',
      links: 'tinted',
      bookmarks: 'sheets',
      version: 'A-2b',
      layers: 'all',
      layersByView: true,
      text: 'strokes',
    },
    ...{ layersLocked: ['A-GRID*', 'A-DIMS'], layersPrintOnly: ['A-PRNT'], turn: 90, opens: 'width', linearised: true },
  };
  const fields = recipeFields({});

  it('show all of it: what they show, typed into a bare recipe, makes the same', () => {
    const made = fields.reduce((recipe, field) => withField(recipe, field, displayValue(full, field))!, plain);
    expect(made).toEqual(full);
    expect(fields.every((field) => differsFromDefault(full, field))).toBe(true);
    expect(
      Object.keys(full)
        .filter((key) => !['id', 'name'].includes(key))
        .sort(),
    ).toEqual(fields.map(({ key }) => key).sort());
  });

  it('leave out what goes without saying, also when it is typed or set back', () => {
    expect(fields.filter((field) => differsFromDefault(plain, field))).toEqual([]);
    expect(fields.reduce((recipe, field) => withField(recipe, field, displayValue(plain, field))!, plain)).toEqual(
      plain,
    );
    expect(fields.reduce((recipe, field) => withDefault(recipe, field), full)).toEqual(plain);
  });

  it('refuse numbers that cannot be, and take a comma for a point', () => {
    const field = (key: string) => fields.find((one) => one.key === key)!;
    expect(withField(plain, field('pictureDpi'), '50')).toBeUndefined();
    expect(withField(plain, field('pictureDpi'), '100.5')).toBeUndefined();
    expect(withField(plain, field('leastWeight'), 'thin')).toBeUndefined();
    expect(withField(plain, field('leastWeight'), '0,13')).toEqual({ ...plain, leastWeight: 0.13 });
  });
});

describe('a size between those that are told', () => {
  it('lies on the line between its neighbours', () => {
    const points = [
      [100, 10],
      [200, 40],
    ] as const;
    expect([50, 100, 150, 200].map((dpi) => estimatedAt(points, dpi))).toEqual([10, 10, 25, 40]);
  });
});

describe('rows and settings', () => {
  it('stand for each other', () => {
    const field = {
      name: 'phase',
      caption: 'Phase',
      kind: 'choice' as const,
      choices: ['1', '2'],
      required: true as const,
    };
    expect(fieldOf(fieldRow(field))).toEqual(field);
    const plain = { name: 'zone', caption: 'Zone', kind: 'text' as const };
    expect(fieldOf(fieldRow(plain))).toEqual(plain);
    const style = { id: 'big', name: 'Big', size: 7, font: 'serif' as const, colour: 0x1a4d8f };
    expect(styleRow(style)['colour']).toBe('#1a4d8f');
    expect(styleOf(styleRow(style))).toEqual(style);
    expect(paperOfRow({ name: 'Long', short: 900, long: 297 })).toEqual({ name: 'Long', short: 297, long: 900 });
    const person = { id: 'p', name: 'Site office', mail: 'site@quay.example' };
    expect(contactRow(person)).toEqual({ ...person, firm: '', purposes: '', groups: [], formats: [] });
    expect(contactOf(contactRow(person))).toEqual(person);
    const employed = { ...person, firm: 'Quay Builders' };
    expect(contactOf(contactRow(employed))).toEqual(employed);
    const particular = { ...person, purposes: ['Permit', 'Tender'], groups: ['Plans'], formats: ['pdf', 'dxf'] };
    expect(contactRow(particular)).toMatchObject({ purposes: 'Permit, Tender' });
    expect(contactOf(contactRow(particular))).toEqual(particular);
  });

  it('get ids of their own from their names', () => {
    expect(freeId('Room names', [])).toBe('room-names');
    expect(freeId('Room names', [{ id: 'room-names' }, { id: 'room-names-2' }])).toBe('room-names-3');
    expect(freeId('…', [])).toBe('new');
  });
});
