import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { path, ROUTES } from '@folvex/contract';
import { paperNames } from '@folvex/core';
import { ChoiceField } from '../../forms/choice-field';
import { projectFeature } from '../../state/project/project.reducer';
import { SettingsEditor } from '../../state/project/settings-editor';

/** A page that tells whether a plotter prints to scale, on a paper to be chosen. */
@Component({
  selector: 'fx-test-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton],
  template: `
    <h2>Test sheet</h2>
    <p class="quiet">Rulers, line weights, greys and small texts: print it at 100 % and measure.</p>
    <div class="choice">
      <fx-choice caption="Paper" [value]="paper()" [options]="papers()" (chosen)="paper.set($event)" />
    </div>
    <a matButton class="fx-act" target="_blank" [href]="address()">Open the test sheet</a>
  `,
  styles: `
    :host {
      display: grid;
      justify-items: start;
      gap: var(--fx-gap-2);
    }
    p {
      margin: 0;
    }
    .choice {
      width: 200px;
    }
  `,
})
export class TestSheet {
  private readonly project = inject(Store).selectSignal(projectFeature.selectId);
  private readonly facts = inject(SettingsEditor).facts;
  protected readonly paper = signal('A3');
  protected readonly papers = computed(() =>
    paperNames(this.facts()?.papers).map((name) => ({ value: name, words: name })),
  );
  protected readonly address = computed(() => path(ROUTES.testSheet, { project: this.project(), paper: this.paper() }));
}
