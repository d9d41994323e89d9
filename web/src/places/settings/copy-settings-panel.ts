import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatTableModule } from '@angular/material/table';
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
  type SheetPackage,
} from '@folvex/core';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { Lookups } from '../../state/lookups/lookups';
import { NoticeActions } from '../../state/notices/notices.actions';
import { projectFeature } from '../../state/project/project.reducer';
import { SettingsEditor } from '../../state/project/settings-editor';
import { projectOptions } from '../../ui/choices';
import { countOf } from '../../ui/words';

const STATES: Readonly<Record<SettingOffer['state'], string>> = {
  new: 'new',
  same: 'the same',
  clash: 'has another one of that name',
};

/** Settings of another project, or of a job file, taken over one by one; what clashes is shown before. */
@Component({
  selector: 'fx-take-over',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatCheckbox, MatTableModule],
  template: `
    <h2>From another project</h2>
    <div class="from">
      <fx-choice
        caption="Project"
        placeholder="Choose a project"
        [value]="from()"
        [options]="projectOptions()"
        (chosen)="choose($event)"
      />
      <input #file hidden type="file" accept=".json,application/json" (change)="read(file.files?.[0])" />
      <button matButton="outlined" type="button" (click)="file.click()">Read a job file</button>
    </div>
    @if (problem()) {
      <p role="alert" class="wrong">{{ problem() }}</p>
    }
    @if (source(); as from) {
      @if (offers().length === 0) {
        <p class="quiet">{{ from.name }} has no settings of its own.</p>
      } @else {
        <table mat-table aria-label="Settings to copy" [dataSource]="offers()">
          <ng-container matColumnDef="wanted">
            <th mat-header-cell *matHeaderCellDef><span class="fx-visually-hidden">Copy</span></th>
            <td mat-cell *matCellDef="let offer">
              <mat-checkbox
                [disabled]="offer.state === 'same'"
                [checked]="wanted().has(idOf(offer))"
                [aria-label]="'Copy ' + kindOf(offer) + ' ' + offer.name"
                (change)="want(offer, $event.checked)"
              />
            </td>
          </ng-container>
          <ng-container matColumnDef="kind">
            <th mat-header-cell *matHeaderCellDef>Kind</th>
            <td mat-cell *matCellDef="let offer">{{ kindOf(offer) }}</td>
          </ng-container>
          <ng-container matColumnDef="name">
            <th mat-header-cell *matHeaderCellDef>Name</th>
            <td mat-cell *matCellDef="let offer">{{ offer.name }}</td>
          </ng-container>
          <ng-container matColumnDef="here">
            <th mat-header-cell *matHeaderCellDef>In this project</th>
            <td mat-cell *matCellDef="let offer">
              <span [class.wrong]="offer.state === 'clash'">{{ stateOf(offer) }}</span>
              @if (offer.state === 'clash' && wanted().has(idOf(offer))) {
                <fx-choice
                  bare
                  [caption]="'What happens to ' + offer.name"
                  [value]="wanted().get(idOf(offer))!.clash!"
                  [options]="ways"
                  (chosen)="settle(offer, $event)"
                />
              }
            </td>
          </ng-container>
          <tr mat-header-row *matHeaderRowDef="columns"></tr>
          <tr mat-row *matRowDef="let row; columns: columns"></tr>
        </table>
        <button mat-stroked-button type="button" [disabled]="wanted().size === 0" (click)="take()">
          Copy {{ counted(wanted().size, 'setting') }}
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
      align-items: end;
      justify-items: start;
      gap: var(--fx-gap-4);
    }
    table {
      width: 100%;
    }
    .wrong {
      color: var(--fx-signal);
    }
  `,
})
export class CopySettingsPanel {
  private readonly store = inject(Store);
  private readonly editor = inject(SettingsEditor);
  private readonly projects = this.store.selectSignal(projectFeature.selectProjects);
  private readonly own = this.store.selectSignal(projectFeature.selectId);
  private readonly others = computed(() => (this.projects() ?? []).filter(({ id }) => id !== this.own()));
  protected readonly from = signal('');
  protected readonly projectOptions = computed(() => projectOptions(this.others()));
  protected readonly columns = ['wanted', 'kind', 'name', 'here'];
  protected readonly ways: readonly Choosable<'both' | 'replace'>[] = [
    { value: 'both', words: 'keep both' },
    { value: 'replace', words: 'replace it' },
  ];
  /** Tells one time of asking for a project from the next. */
  private readonly asked = signal(0);
  private readonly file = signal<Source | null>(null);
  private readonly found = inject(Lookups).of('project', () =>
    this.from() ? { project: this.from(), asked: this.asked() } : undefined,
  );
  protected readonly problem = this.found.problem;
  protected readonly source = computed(() => {
    const found = this.found.answer();
    return this.file() ?? (found && sourceOf(found.project.name, found));
  });
  protected readonly counted = countOf;
  private readonly here = computed((): ProjectSettings | null => {
    const project = this.editor.facts();
    return project && { project, groups: this.editor.groups(), recipes: this.editor.recipes() };
  });
  protected readonly offers = computed(() => {
    const [from, here] = [this.source(), this.here()];
    return from && here ? settingOffers(from.settings, here) : [];
  });
  /** What is to be taken, by `idOf`, with what to do where the name is taken. */
  protected readonly wanted = signal<ReadonlyMap<string, ChosenSetting>>(new Map());

  protected idOf({ kind, key }: Pick<SettingOffer, 'kind' | 'key'>): string {
    return `${kind} ${key}`;
  }

  protected kindOf({ kind }: SettingOffer): string {
    return SETTING_KINDS[kind];
  }

  protected stateOf({ state }: SettingOffer): string {
    return STATES[state];
  }

  protected choose(id: string): void {
    this.file.set(null);
    this.wanted.set(new Map());
    this.from.set(id);
    this.asked.update((times) => times + 1);
  }

  protected async read(file: File | undefined): Promise<void> {
    this.choose('');
    if (!file) return;
    const read = readJobFile(await file.text());
    if (read.ok) this.file.set(sourceOf(file.name, read.job));
    else this.store.dispatch(NoticeActions.requestRefused({ problem: read.problems[0]! }));
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
}

/** What settings are copied from. */
interface Source {
  name: string;
  settings: ProjectSettings;
}

function sourceOf(
  name: string,
  { project, groups, recipes, packages }: ProjectSettings & { packages: readonly SheetPackage[] },
): Source {
  return { name, settings: withPackageNames({ project, groups, recipes }, packages) };
}
