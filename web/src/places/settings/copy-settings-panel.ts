import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import {
  readJobFile,
  SETTING_KINDS,
  settingOffers,
  copySettings,
  withPackageNames,
  type ChosenSetting,
  type SettingOffer,
  type ProjectSettings,
} from '@folvex/core';
import { Api, problemOf } from '../../state/api';
import { ProjectActions } from '../../state/project.actions';
import { projectFeature } from '../../state/project.reducer';
import { countOf } from '../../ui/words';
import { SettingsEditor } from '../../state/settings-editor';

const STATES: Readonly<Record<SettingOffer['state'], string>> = {
  new: 'not here yet',
  same: 'the same is here',
  clash: 'here, but another one',
};

/** Settings of another project, or of a job file, taken over one by one; what clashes is shown before. */
@Component({
  selector: 'fx-take-over',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `
    <h2>From another project</h2>
    <div class="from">
      <label>
        <span class="fx-caption">Project</span>
        <select #project class="fx-field" (change)="choose(project.value)">
          <option value="">choose one …</option>
          @for (option of others(); track option.id) {
            <option [value]="option.id">{{ option.number }} {{ option.name }}</option>
          }
        </select>
      </label>
      <label class="file">
        <span class="fx-caption">or a job file</span>
        <input #file type="file" accept=".json,application/json" (change)="read(file.files?.[0])" />
      </label>
    </div>
    @if (source(); as from) {
      @if (offers().length === 0) {
        <p class="quiet">{{ from.name }} has no settings of its own.</p>
      } @else {
        <table>
          <thead>
            <tr>
              <th></th>
              <th class="fx-caption" scope="col">Kind</th>
              <th class="fx-caption" scope="col">Name</th>
              <th class="fx-caption" scope="col">Here</th>
            </tr>
          </thead>
          <tbody>
            @for (offer of offers(); track offer.kind + offer.key) {
              <tr>
                <td>
                  <input
                    #on
                    type="checkbox"
                    [disabled]="offer.state === 'same'"
                    [checked]="wanted().has(idOf(offer))"
                    [attr.aria-label]="'Take ' + kinds[offer.kind] + ' ' + offer.name"
                    (change)="want(offer, on.checked)"
                  />
                </td>
                <td>{{ kinds[offer.kind] }}</td>
                <td>{{ offer.name }}</td>
                <td>
                  <span [class.wrong]="offer.state === 'clash'">{{ states[offer.state] }}</span>
                  @if (offer.state === 'clash' && wanted().has(idOf(offer))) {
                    <select
                      #way
                      class="fx-field"
                      [attr.aria-label]="'What becomes of the ' + offer.name + ' that is here'"
                      (change)="settle(offer, way.selectedIndex === 0 ? 'both' : 'replace')"
                    >
                      <option>keep both</option>
                      <option>put it in the other's place</option>
                    </select>
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
        <button mat-stroked-button type="button" [disabled]="wanted().size === 0" (click)="take()">
          Take over {{ counted(wanted().size, 'setting') }}
        </button>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-3);
      justify-items: start;
    }
    .from {
      display: grid;
      grid-template-columns: 320px 1fr;
      gap: var(--fx-gap-4);
    }
    .file {
      display: grid;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      text-align: left;
    }
    td {
      padding: var(--fx-gap-1);
      border-top: 1px solid var(--fx-line);
    }
    td .fx-field {
      width: auto;
      margin-left: var(--fx-gap-2);
    }
    .wrong {
      color: var(--fx-signal);
    }
  `,
})
export class CopySettingsPanel {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly editor = inject(SettingsEditor);
  private readonly projects = this.store.selectSignal(projectFeature.selectProjects);
  private readonly own = this.store.selectSignal(projectFeature.selectId);
  protected readonly others = computed(() => this.projects().filter(({ id }) => id !== this.own()));
  protected readonly source = signal<{ name: string; settings: ProjectSettings } | null>(null);
  protected readonly kinds = SETTING_KINDS;
  protected readonly states = STATES;
  protected readonly counted = countOf;
  private readonly here = computed((): ProjectSettings | null => {
    const project = this.editor.facts();
    return project && { project, groups: this.editor.groups(), recipes: this.editor.recipes() };
  });
  protected readonly offers = computed(() => {
    const [from, here] = [this.source(), this.here()];
    return from && here ? settingOffers(from.settings, here) : [];
  });
  /** What is to be taken, by `idOf`, with what becomes of a clash. */
  protected readonly wanted = signal<ReadonlyMap<string, ChosenSetting>>(new Map());

  protected idOf({ kind, key }: Pick<SettingOffer, 'kind' | 'key'>): string {
    return `${kind} ${key}`;
  }

  protected choose(id: string): void {
    this.show(null);
    if (!id) return;
    this.api.project(id).subscribe({
      next: ({ project, groups, recipes, packages }) =>
        this.show({ name: project.name, settings: withPackageNames({ project, groups, recipes }, packages) }),
      error: (error: unknown) => this.refuse(problemOf(error)),
    });
  }

  protected async read(file: File | undefined): Promise<void> {
    this.show(null);
    if (!file) return;
    const read = readJobFile(await file.text());
    if (!read.ok) return this.refuse(read.problems[0]!);
    const { project, groups, recipes, packages } = read.job;
    this.show({ name: file.name, settings: withPackageNames({ project, groups, recipes }, packages) });
  }

  protected want(offer: SettingOffer, on: boolean): void {
    const next = new Map(this.wanted());
    const { kind, key } = offer;
    if (on) next.set(this.idOf(offer), { kind, key, ...(offer.state === 'clash' && { clash: 'both' }) });
    else next.delete(this.idOf(offer));
    this.wanted.set(next);
  }

  protected settle({ kind, key }: SettingOffer, clash: 'both' | 'replace'): void {
    this.wanted.set(new Map(this.wanted()).set(this.idOf({ kind, key }), { kind, key, clash }));
  }

  protected take(): void {
    const [from, here] = [this.source(), this.here()];
    if (!from || !here) return;
    const { project, groups, recipes } = copySettings(from.settings, here, [...this.wanted().values()]);
    const was = { project: here.project, groups: here.groups, recipes: here.recipes };
    this.editor.send({ project, groups, recipes, was });
    this.wanted.set(new Map());
  }

  private show(source: { name: string; settings: ProjectSettings } | null): void {
    this.source.set(source);
    this.wanted.set(new Map());
  }

  private refuse(problem: Parameters<typeof ProjectActions.requestRefused>[0]['problem']): void {
    this.store.dispatch(ProjectActions.requestRefused({ problem }));
  }
}
