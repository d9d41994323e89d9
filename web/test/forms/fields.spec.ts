import { provideZonelessChangeDetection, signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatAutocompleteHarness } from '@angular/material/autocomplete/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import * as yup from 'yup';
import { ChoiceField } from '../../src/forms/choice-field';
import { DateField } from '../../src/forms/date-field';
import { fromIso, toIso } from '../../src/forms/iso-date-adapter';
import { NumberField } from '../../src/forms/number-field';
import { limitedNumber, parseTyped, typedNumber } from '../../src/forms/number-text';
import { TextField } from '../../src/forms/text-field';
import { problemWith, YUP_ERROR, yupValidator } from '../../src/forms/yup-validator';
import { FormControl } from '@angular/forms';
import { enter } from '../support/panels';

async function show<T>(type: Type<T>, inputs: Record<string, unknown>): Promise<ComponentFixture<T>> {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}

const host = (fixture: ComponentFixture<unknown>): HTMLElement => fixture.nativeElement as HTMLElement;
const inputOf = (fixture: ComponentFixture<unknown>): HTMLInputElement => host(fixture).querySelector('input')!;
const errorOf = (fixture: ComponentFixture<unknown>): string | undefined =>
  host(fixture).querySelector('mat-error')?.textContent?.trim();

describe('a schema of Yup as a validator', () => {
  it('gives its own sentence, and nothing where the value is right', () => {
    const validate = yupValidator(yup.string().max(3, 'Too long.'));
    expect(validate(new FormControl('abcd'))).toEqual({ [YUP_ERROR]: 'Too long.' });
    expect(validate(new FormControl('abc'))).toBeNull();
    expect(problemWith(yup.number().required('Missing.'), undefined)).toBe('Missing.');
  });
});

describe('a typed number', () => {
  it('takes a comma for a point', () => {
    expect([parseTyped(' 2,5 '), parseTyped(''), parseTyped('far')]).toEqual([2.5, undefined, NaN]);
  });

  it.each([
    ['0.5', 'Type a number from 1 to 20.'],
    ['21', 'Type a number from 1 to 20.'],
    ['abc', 'Type a number from 1 to 20.'],
    ['', 'Type a number from 1 to 20.'],
    ['2,5', undefined],
  ])('"%s" is checked by its limits', (text, sentence) => {
    expect(problemWith(typedNumber(limitedNumber({ min: 1, max: 20 })), text)).toBe(sentence);
  });

  it.each([
    [{ min: 1, max: Infinity }, 'Type a number from 1.'],
    [{ min: -Infinity, max: 9 }, 'Type a number up to 9.'],
    [{ min: -Infinity, max: Infinity }, 'Type a number.'],
  ])('says only the limits that there are: %j', (limits, sentence) => {
    expect(problemWith(typedNumber(limitedNumber(limits)), 'abc')).toBe(sentence);
  });

  it('may be blank where it is optional, and must be whole where that is asked for', () => {
    const schema = typedNumber(limitedNumber({ min: 1, max: 9, whole: true, optional: true }));
    expect(problemWith(schema, '')).toBeUndefined();
    expect(problemWith(schema, '2.5')).toBe('Type a whole number from 1 to 9.');
  });
});

describe('a text field', () => {
  it('keeps what is being typed while something that its schema depends on changes', async () => {
    const taken = signal(['A-1']);
    const schema = yup.string().test('free', 'Taken.', (text) => !taken().includes(text!));
    const fixture = await show(TextField, { caption: 'Number', value: 'A-9', schema });
    const entered: string[] = [];
    fixture.componentInstance.entered.subscribe((text) => entered.push(text));
    const input = inputOf(fixture);
    input.value = 'A-2';
    input.dispatchEvent(new Event('input'));
    taken.set(['A-1', 'A-2']);
    await fixture.whenStable();
    expect(input.value).toBe('A-2');
    input.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect([entered, errorOf(fixture)]).toEqual([[], 'Taken.']);
  });

  it('hands on what is entered, and keeps what is wrong with the reason below it', async () => {
    const schema = yup.string().matches(/^A/, 'Begin with A.');
    const fixture = await show(TextField, { caption: 'Number', value: 'A-1', schema });
    const entered: string[] = [];
    fixture.componentInstance.entered.subscribe((text) => entered.push(text));
    expect(host(fixture).querySelector('label')!.control).toBe(inputOf(fixture));
    enter(inputOf(fixture), 'B-1');
    await fixture.whenStable();
    expect([entered, errorOf(fixture), inputOf(fixture).value]).toEqual([[], 'Begin with A.', 'B-1']);
    expect(inputOf(fixture).getAttribute('aria-invalid')).toBe('true');
    enter(inputOf(fixture), 'A-2');
    await fixture.whenStable();
    expect([entered, errorOf(fixture)]).toEqual([['A-2'], undefined]);
  });

  it('shows a value that changed elsewhere, and no longer what was wrong', async () => {
    const schema = yup.string().matches(/^A/, 'Begin with A.');
    const fixture = await show(TextField, { caption: 'Number', value: 'A-1', schema });
    enter(inputOf(fixture), 'B-1');
    fixture.componentRef.setInput('value', 'A-9');
    await fixture.whenStable();
    expect([inputOf(fixture).value, errorOf(fixture)]).toEqual(['A-9', undefined]);
  });

  it('offers all on a click, what contains the text while typing, and nothing for what is right', async () => {
    const schema = yup.string().oneOf(['1:50', '1:100', '1:500', 'fit'], 'No scale.');
    const fixture = await show(TextField, {
      caption: 'Scale',
      value: '1:50',
      schema,
      offers: ['1:50', '1:100', '1:500'],
    });
    const offers = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatAutocompleteHarness);
    const texts = async (): Promise<string[]> => Promise.all((await offers.getOptions()).map((one) => one.getText()));
    await offers.focus();
    expect(await offers.isOpen()).toBe(false);
    inputOf(fixture).click();
    await fixture.whenStable();
    expect(await texts()).toEqual(['1:50', '1:100', '1:500']);
    await offers.clear();
    await offers.enterText('1:5');
    expect(await texts()).toEqual(['1:50', '1:500']);
    await offers.enterText('0');
    expect(await offers.isOpen()).toBe(false);
  });

  it('offers the next entry of a list, and leaves the others as they are', async () => {
    const fixture = await show(TextField, {
      ...{ caption: 'To', value: 'a@b.example', listed: true },
      offers: ['Site office', 'Plan room', 'Quay Builders'],
    });
    const loader = TestbedHarnessEnvironment.loader(fixture);
    const offers = await loader.getHarness(MatAutocompleteHarness);
    const choose = async (words: string): Promise<string> => {
      await offers.selectOption({ text: words });
      return offers.getValue();
    };
    await offers.focus();
    inputOf(fixture).click();
    await fixture.whenStable();
    expect(await choose('Plan room')).toBe('a@b.example, Plan room');
    await offers.enterText('; qua');
    expect(await choose('Quay Builders')).toBe('a@b.example, Plan room; Quay Builders');
    await offers.clear();
    await offers.enterText('site');
    expect(await choose('Site office')).toBe('Site office');
    await offers.enterText(', site office');
    expect(await offers.isOpen()).toBe(false);
  });
});

describe('a number field', () => {
  it('hands on numbers only, and undefined where it may be blank', async () => {
    const fixture = await show(NumberField, {
      caption: 'Height',
      value: 3,
      min: 1,
      max: 9,
      absent: 'auto',
      unit: 'mm',
    });
    const entered: (number | undefined)[] = [];
    fixture.componentInstance.entered.subscribe((value) => entered.push(value));
    enter(inputOf(fixture), '2,5');
    enter(inputOf(fixture), '12');
    enter(inputOf(fixture), '');
    expect(entered).toEqual([2.5, undefined]);
    expect(host(fixture).textContent).toContain('mm');
  });
});

describe('a choice', () => {
  it('tells values apart that Material could not hold, such as undefined and true', async () => {
    const options = [
      { value: undefined, words: 'no' },
      { value: true, words: 'yes' },
    ];
    const fixture = await show(ChoiceField<boolean | undefined>, { caption: 'Border', value: undefined, options });
    const chosen: unknown[] = [];
    fixture.componentInstance.chosen.subscribe((value) => chosen.push(value));
    const select = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatSelectHarness);
    expect(await select.getValueText()).toBe('no');
    await select.clickOptions({ text: 'yes' });
    await select.clickOptions({ text: 'no' });
    expect(chosen).toEqual([true, undefined]);
  });

  it('that only acts is empty again afterwards', async () => {
    const fixture = await show(ChoiceField<string>, {
      caption: 'Field',
      acts: true,
      options: [{ value: 'a', words: 'A' }],
    });
    const select = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatSelectHarness);
    await select.clickOptions({ text: 'A' });
    expect(await select.isEmpty()).toBe(true);
  });
});

describe('a date', () => {
  it('is written as ISO 8601 writes it; a day that does not exist is none', () => {
    expect(toIso(new Date(2026, 1, 3))).toBe('2026-02-03');
    expect(fromIso('2026-2-3')).toEqual(new Date(2026, 1, 3));
    expect([fromIso('2026-02-30'), fromIso('3.2.2026'), fromIso('')]).toEqual([undefined, undefined, undefined]);
  });

  it('is handed on as YYYY-MM-DD, cleared as empty, and kept with a reason where it is none', async () => {
    const fixture = await show(DateField, { caption: 'Date', value: '2026-02-03' });
    const entered: string[] = [];
    fixture.componentInstance.entered.subscribe((day) => entered.push(day));
    expect(inputOf(fixture).value).toBe('2026-02-03');
    enter(inputOf(fixture), '2026-02-30');
    await fixture.whenStable();
    expect([entered, errorOf(fixture)]).toEqual([[], 'Write the date as YYYY-MM-DD.']);
    enter(inputOf(fixture), '2026-03-01');
    enter(inputOf(fixture), '');
    await fixture.whenStable();
    expect([entered, errorOf(fixture)]).toEqual([['2026-03-01', ''], undefined]);
  });
});
