import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { SettingsChange } from '@folvex/contract';
import type { Group, ProjectFacts } from '@folvex/core';
import { SettingsActions } from '../project/project.actions';
import { projectFeature } from '../project/project.reducer';

/** Changes settings of the open project, so that what somebody else changed meanwhile is not overwritten unseen. */
@Injectable({ providedIn: 'root' })
export class SettingsEditor {
  private readonly store = inject(Store);
  readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  readonly recipes = this.store.selectSignal(projectFeature.selectRecipes);

  /** Changes some of the project's facts. */
  changeFacts(facts: Partial<ProjectFacts>): void {
    const now = this.facts();
    if (!now) return;
    const was = Object.fromEntries(Object.keys(facts).map((key) => [key, now[key as keyof ProjectFacts] ?? null]));
    this.send({ project: facts, was: { project: was as Partial<ProjectFacts> } });
  }

  changeGroups(groups: Group[]): void {
    this.send({ groups, was: { groups: this.groups() } });
  }

  send(change: SettingsChange): void {
    this.store.dispatch(SettingsActions.settingsEdited({ change }));
  }
}
