import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { deviationsOf, settingsOf, type Group, type GroupSetting, type GroupSettings, type Sheet } from '@folvex/core';
import type { ManyChange } from '@folvex/contract';
import { SettingsActions } from '../../state/project/project.actions';
import { projectFeature } from '../../state/project/project.reducer';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { countOf } from '../../ui/words';

const WORDS: Readonly<Record<GroupSetting, string>> = {
  paper: 'paper',
  frame: 'frame',
  marks: 'marks',
  template: 'title block',
};

/** In what a sheet deviates from its group: `paper, frame`. */
export function deviationsInWords(sheet: Sheet, group: Group | undefined): string {
  return deviationsOf(sheet, group)
    .map((key) => WORDS[key])
    .join(', ');
}

/** How sheets deviate from what their groups say, with the way back; and the way to have a group say it. */
@Component({
  selector: 'fx-group-settings',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `
    @if (deviating(); as found) {
      <p class="wrong">
        {{ sheets().length > 1 ? counted(found.sheets, 'sheet') + ' deviate' : 'It deviates' }} from the group:
        {{ found.words }}.
        <button matButton type="button" class="fx-act" (click)="reset()">Set it as the group has it</button>
      </p>
    }
    @if (givable(); as group) {
      <button matButton type="button" class="fx-act" (click)="give(group)">
        Apply these settings to {{ group.name }}
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
    :host:empty {
      display: none;
    }
    .wrong {
      color: var(--fx-signal);
    }
    .fx-act {
      justify-self: start;
      text-align: left;
    }
  `,
})
export class GroupSettingsPanel {
  readonly sheets = input.required<readonly Sheet[]>();

  private readonly store = inject(Store);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly counted = countOf;
  private readonly deviations = computed(() =>
    this.sheets().flatMap((sheet) => {
      const group = this.groups().find(({ id }) => id === sheet.group);
      const keys = deviationsOf(sheet, group);
      return group && keys.length > 0 ? [{ sheet, group, keys }] : [];
    }),
  );
  protected readonly deviating = computed(() => {
    const found = this.deviations();
    if (found.length === 0) return null;
    const words = [...new Set(found.flatMap(({ keys }) => keys.map((key) => WORDS[key])))].join(', ');
    return { sheets: found.length, words };
  });
  /** The group of a single sheet of its own that the group is not like. */
  protected readonly givable = computed(() => {
    const [sheet, ...more] = this.sheets();
    const group = this.groups().find(({ id }) => id === sheet?.group);
    if (!sheet || more.length > 0 || sheet.from || !group) return null;
    return group.sheets && this.deviations().length === 0 ? null : group;
  });

  protected reset(): void {
    const byGroup = new Map<Group, Sheet[]>();
    for (const { sheet, group } of this.deviations()) byGroup.set(group, [...(byGroup.get(group) ?? []), sheet]);
    for (const [{ sheets = {} }, deviating] of byGroup) {
      const change = { ids: deviating.map(({ id }) => id), set: changeTo(sheets) };
      this.store.dispatch(SheetActions.severalEdited({ change }));
    }
  }

  protected give(group: Group): void {
    const sheets = settingsOf(this.sheets()[0]!);
    const groups = this.groups().map((one) => (one.id === group.id ? { ...one, sheets } : one));
    this.store.dispatch(SettingsActions.settingsEdited({ change: { groups, was: { groups: this.groups() } } }));
  }
}

function changeTo({ paper, frame, marks, template }: GroupSettings): ManyChange['set'] {
  return {
    ...(paper && { paper }),
    ...(frame && { frame }),
    ...(marks && { marks: marks.length > 0 ? marks : null }),
    ...(template && { template }),
  };
}
