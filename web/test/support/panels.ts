import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatIconRegistry } from '@angular/material/icon';
import { FakeMatIconRegistry } from '@angular/material/icon/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { provideMockStore } from '@ngrx/store/testing';
import type { DrawingInfo } from '@folvex/contract';
import { selectDrawingEntities } from '../../src/state/drawings/drawings.selectors';
import { editsFeature } from '../../src/state/edits/edits.reducer';
import { projectFeature } from '../../src/state/project/project.reducer';
import { selectAllSheets } from '../../src/state/sheets/sheets.selectors';

const groups = [
  { id: 'plans', name: 'Plans' },
  { id: 'details', name: 'Details' },
];

export async function show<T>(type: Type<T>, inputs: Record<string, unknown>): Promise<ComponentFixture<T>> {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([]),
      { provide: MatIconRegistry, useClass: FakeMatIconRegistry },
      provideMockStore({
        selectors: [
          { selector: projectFeature.selectGroups, value: groups },
          { selector: editsFeature.selectEditing, value: 0 },
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
/** The input under a caption. */
export const field = (fixture: ComponentFixture<unknown>, caption: string): HTMLInputElement => {
  const labels = [...host(fixture).querySelectorAll('label')];
  const found = labels.find((label) => label.textContent!.includes(caption))!;
  return (found.control ?? found.querySelector('input')) as HTMLInputElement;
};
export const enter = (input: HTMLInputElement | HTMLTextAreaElement, value: string): void => {
  input.value = value;
  input.dispatchEvent(new Event('input'));
  input.dispatchEvent(new Event('change'));
};
/** Chooses an option of the select under a caption. */
export async function choose(
  fixture: ComponentFixture<unknown>,
  caption: string,
  words: string | RegExp,
): Promise<void> {
  await (await selectOf(fixture, caption)).clickOptions({ text: words });
}

export async function selectOf(fixture: ComponentFixture<unknown>, caption: string): Promise<MatSelectHarness> {
  const fields = [...host(fixture).querySelectorAll('fx-choice')];
  const at = fields.findIndex(
    (one) => one.textContent!.includes(caption) || one.querySelector(`[aria-label="${caption}"]`),
  );
  const selects = await TestbedHarnessEnvironment.loader(fixture).getAllHarnesses(MatSelectHarness);
  return selects[at]!;
}

/** Ticks or unticks the checkbox with those words. */
export async function tick(fixture: ComponentFixture<unknown>, words: string | RegExp): Promise<void> {
  const box = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatCheckboxHarness.with({ label: words }));
  await box.toggle();
}
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
