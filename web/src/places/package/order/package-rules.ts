import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PackageChange } from '@folvex/contract';
import type { Group, SheetPackage } from '@folvex/core';
import { StampList } from './stamp-list';

/** What a package is for, which sheets it takes in by itself, and what it prints over its pages. */
@Component({
  selector: 'fx-package-rules',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StampList],
  template: `
    @let pack = this.pack();
    <details>
      <summary class="fx-caption">What it is for{{ pack.purpose ? ': ' + pack.purpose : '' }}</summary>
      <div class="pair">
        <label>
          <span class="fx-caption">Purpose</span>
          <input #purpose class="fx-field" [value]="pack.purpose ?? ''" (change)="say({ purpose: purpose.value })" />
        </label>
        <label>
          <span class="fx-caption">Date</span>
          <input #date class="fx-field" type="date" [value]="pack.date ?? ''" (change)="say({ date: date.value })" />
        </label>
      </div>
      <label>
        <span class="fx-caption">Notes</span>
        <textarea #notes class="fx-field" rows="2" [value]="pack.notes ?? ''" (change)="say({ notes: notes.value })">
        </textarea>
      </label>
    </details>
    <details>
      <summary class="fx-caption">Sheets taken in by rule: {{ ruleWords() }}</summary>
      <p class="quiet">All sheets of these groups, new ones too; what the order does not name comes at the end.</p>
      <p class="groups">
        @for (group of groups(); track group.id) {
          <label>
            <input #on type="checkbox" [checked]="inRule(group.id)" (change)="toggle(group.id, on.checked)" />
            {{ group.name }}
          </label>
        } @empty {
          The project has no groups.
        }
      </p>
      <label>
        <span class="fx-caption">But none like (numbers or titles, commas between)</span>
        <input
          #without
          class="fx-field"
          placeholder="*draft*"
          [value]="(pack.members?.without ?? []).join(', ')"
          (change)="leaveOut(without.value)"
        />
      </label>
    </details>
    <details>
      <summary class="fx-caption">Stamps on every page{{ stamps().length ? ': ' + stamps().length : '' }}</summary>
      <fx-stamp-list [stamps]="stamps()" (changed)="say({ stamps: $event })" />
    </details>
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
    .pair {
      display: grid;
      grid-template-columns: 2fr 1fr;
      gap: var(--fx-gap-2);
      margin: var(--fx-gap-2) 0;
    }
    label {
      display: grid;
    }
    textarea {
      height: auto;
    }
    .groups {
      display: flex;
      flex-wrap: wrap;
      gap: var(--fx-gap-1) var(--fx-gap-3);
      margin: var(--fx-gap-2) 0;

      label {
        display: flex;
        align-items: center;
        gap: 4px;
      }
    }
    .quiet {
      color: var(--fx-quiet);
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

  protected say(change: PackageChange): void {
    this.changed.emit(change);
  }

  protected toggle(group: string, on: boolean): void {
    const { groups = [], ...rest } = this.pack().members ?? {};
    this.say({ members: { ...rest, groups: on ? [...groups, group] : groups.filter((id) => id !== group) } });
  }

  protected leaveOut(typed: string): void {
    const without = typed
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
    const groups = this.pack().members?.groups ?? [];
    this.say({ members: { groups, ...(without.length > 0 && { without }) } });
  }
}
