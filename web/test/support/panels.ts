import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { provideMockStore } from '@ngrx/store/testing';
import type { DrawingInfo } from '@folvex/contract';
import { projectFeature } from '../../src/state/project.reducer';
import { selectAllSheets, selectDrawingEntities } from '../../src/state/project.selectors';

const groups = [
  { id: 'plans', name: 'Plans' },
  { id: 'details', name: 'Details' },
];

export async function show<T>(type: Type<T>, inputs: Record<string, unknown>): Promise<ComponentFixture<T>> {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([]),
      provideMockStore({
        selectors: [
          { selector: projectFeature.selectGroups, value: groups },
          { selector: projectFeature.selectEditing, value: 0 },
          { selector: projectFeature.selectFacts, value: { number: '', name: '', client: '', fields: {} } },
          { selector: selectAllSheets, value: [] },
          { selector: selectDrawingEntities, value: {} },
        ],
      }),
    ],
  });
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}

export const host = (fixture: ComponentFixture<unknown>): HTMLElement => fixture.nativeElement as HTMLElement;
export const field = (fixture: ComponentFixture<unknown>, caption: string): HTMLInputElement => {
  const labels = [...host(fixture).querySelectorAll('label')];
  const found = labels.find((label) => label.textContent!.includes(caption));
  return found!.querySelector<HTMLInputElement>('input, select')!;
};
export const enter = (input: HTMLInputElement, value: string): void => {
  input.value = value;
  input.dispatchEvent(new Event('input'));
  input.dispatchEvent(new Event('change'));
};
export const press = (fixture: ComponentFixture<unknown>, words: string): void =>
  [...host(fixture).querySelectorAll('button')].find((button) => button.textContent!.includes(words))!.click();

export const drawing = {
  id: 'd',
  name: 'd.dxf',
  version: 3,
  layers: [
    { name: 'A-WALL', colour: 0, visible: true },
    { name: 'A-FURN', colour: 0, visible: true },
    { name: 'OFF', colour: 0, visible: false },
  ],
} as DrawingInfo;
