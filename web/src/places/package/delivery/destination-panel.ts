import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PackageChange } from '@folvex/contract';
import {
  CONFLICT_OPTIONS,
  DESTINATION_KINDS,
  newDestination,
  type ConflictPolicy,
  type Destination,
  type DestinationKind,
  type SheetPackage,
  type TextSetting,
} from '@folvex/core';
import { NameRule } from '../names/name-rule';

/** Where the files of a package are delivered to. */
@Component({
  selector: 'fx-destination-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NameRule],
  template: `
    <label>
      <span class="fx-caption">Destination</span>
      <select #kindChoice class="fx-field" (change)="deliverTo(kindChoice.value)">
        <option value="">none: files are downloaded</option>
        @for (kind of kinds; track kind[0]) {
          <option [value]="kind[0]" [selected]="kind[0] === destination()?.kind">{{ kind[1].name }}</option>
        }
      </select>
    </label>
    @if (destination(); as destination) {
      @for (setting of settings(); track setting.key) {
        <fx-name-rule [caption]="setting.caption" [rule]="valueOf(setting)" (edited)="set(setting, $event)" />
      }
      <p class="quiet">{{ where() }}</p>
      <label>
        <span class="fx-caption">If a file of that name exists</span>
        <select #policy class="fx-field" (change)="change({ onConflict: policyOf(policy.value) })">
          @for (option of policies; track option.value) {
            <option [value]="option.value" [selected]="option.value === destination.onConflict">
              {{ option.words }}
            </option>
          }
        </select>
      </label>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
    label {
      display: grid;
      gap: 2px;
    }
    p {
      margin: 0;
      color: var(--fx-quiet);
      overflow-wrap: anywhere;
    }
  `,
})
export class DestinationPanel {
  readonly pack = input.required<SheetPackage>();
  /** Where it is, with the fields of today; empty until it is known. */
  readonly where = input.required<string>();
  readonly changed = output<PackageChange>();
  protected readonly kinds = Object.entries(DESTINATION_KINDS);
  protected readonly policies = CONFLICT_OPTIONS;
  protected readonly destination = computed(() => this.pack().destination);

  protected readonly settings = computed((): readonly TextSetting[] => {
    const kind = this.destination()?.kind;
    return kind ? DESTINATION_KINDS[kind].settings : [];
  });

  protected deliverTo(kind: string): void {
    this.changed.emit({ destination: kind ? newDestination(kind as DestinationKind) : null });
  }

  protected valueOf({ key }: TextSetting): string {
    return String((this.destination() as Record<string, unknown> | undefined)?.[key] ?? '');
  }

  protected set({ key }: TextSetting, text: string): void {
    this.change({ [key]: text });
  }

  protected change(changes: Partial<Destination>): void {
    this.changed.emit({ destination: { ...this.destination()!, ...changes } });
  }

  protected policyOf(value: string): ConflictPolicy {
    return value as ConflictPolicy;
  }
}
