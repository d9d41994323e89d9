import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import type { PackageChange } from '@folvex/contract';
import type { Group, SheetPackage } from '@folvex/core';
import { DateField } from '../../../forms/date-field';
import { TextField } from '../../../forms/text-field';
import { Fold } from '../../../ui/fold';
import { StampList } from './stamp-list';

/** What a package is for, which sheets it includes by rule, and what it prints over its pages. */
@Component({
  selector: 'fx-package-rules',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DateField, Fold, MatCheckbox, StampList, TextField],
  template: `
    @let pack = this.pack();
    <fx-fold [caption]="'Purpose' + (pack.purpose ? ': ' + pack.purpose : ', date and notes')">
      <div class="pair">
        <fx-text caption="Purpose" [value]="pack.purpose ?? ''" (entered)="change({ purpose: $event })" />
        <fx-date caption="Date" [value]="pack.date ?? ''" (entered)="change({ date: $event })" />
      </div>
      <fx-text caption="Notes" [rows]="2" [value]="pack.notes ?? ''" (entered)="change({ notes: $event })" />
    </fx-fold>
    <fx-fold [caption]="'Sheets included by rule: ' + ruleWords()">
      <p class="quiet">
        All sheets of these groups, new ones too. Sheets that are not in the order yet come at its end.
      </p>
      <div class="groups">
        @for (group of groups(); track group.id) {
          <mat-checkbox [checked]="inRule(group.id)" (change)="toggle(group.id, $event.checked)">
            {{ group.name }}
          </mat-checkbox>
        } @empty {
          The project has no groups.
        }
      </div>
      <fx-text
        caption="Except (numbers or titles, separated by commas)"
        placeholder="*draft*"
        [value]="(pack.members?.without ?? []).join(', ')"
        (entered)="leaveOut($event)"
      />
    </fx-fold>
    <fx-fold [caption]="'Stamps on every page' + (stamps().length ? ': ' + stamps().length : '')">
      <fx-stamp-list [stamps]="stamps()" (changed)="change({ stamps: $event })" />
    </fx-fold>
  `,
  styles: `
    :host {
      display: grid;
    }
    .pair {
      display: grid;
      grid-template-columns: 3fr 2fr;
      gap: var(--fx-gap-2);
    }
    .groups {
      display: flex;
      flex-wrap: wrap;
      gap: 0 var(--fx-gap-3);
    }
  `,
})
export class PackageRules {
  readonly pack = input.required<SheetPackage>();
  readonly groups = input.required<readonly Group[]>();
  readonly changed = output<PackageChange>();

  protected readonly stamps = computed(() => this.pack().stamps ?? []);
  protected readonly ruleWords = computed(() => {
    const named = this.groups().filter(({ id }) => this.inRule(id));
    return named.length === 0 ? 'none' : named.map(({ name }) => name).join(', ');
  });

  protected inRule(group: string): boolean {
    return this.pack().members?.groups.includes(group) ?? false;
  }

  protected change(change: PackageChange): void {
    this.changed.emit(change);
  }

  protected toggle(group: string, on: boolean): void {
    const { groups = [], ...rest } = this.pack().members ?? {};
    this.change({ members: { ...rest, groups: on ? [...groups, group] : groups.filter((id) => id !== group) } });
  }

  protected leaveOut(typed: string): void {
    const without = typed
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
    const groups = this.pack().members?.groups ?? [];
    this.change({ members: { groups, ...(without.length > 0 && { without }) } });
  }
}
