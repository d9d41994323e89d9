import { provideZonelessChangeDetection, type EnvironmentProviders, type Provider, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MatIconRegistry } from '@angular/material/icon';
import { FakeMatIconRegistry } from '@angular/material/icon/testing';
import { provideRouter } from '@angular/router';
import { provideMockStore } from '@ngrx/store/testing';
import { ProjectActions } from '../../src/state/project/project.actions';
import { after, type State } from './state';

/** A component with its inputs, in an open project whose id is 2617, or over another state. */
export async function show<T>(
  type: Type<T>,
  inputs: Record<string, unknown>,
  state: State = after(ProjectActions.projectOpened({ projectId: '2617' })),
  providers: readonly (Provider | EnvironmentProviders)[] = [],
): Promise<ComponentFixture<T>> {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([]),
      { provide: MatIconRegistry, useClass: FakeMatIconRegistry },
      provideMockStore({ initialState: state }),
      ...providers,
    ],
  });
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}

/** All text of a component, white space as one space. */
export const text = (fixture: ComponentFixture<unknown>): string =>
  (fixture.nativeElement as HTMLElement).textContent!.replace(/\s+/g, ' ').trim();

/** The elements of a component that match a selector. */
export const all = (fixture: ComponentFixture<unknown>, selector: string): HTMLElement[] => [
  ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>(selector),
];
