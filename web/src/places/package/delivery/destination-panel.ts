import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PackageChange } from '@folvex/contract';
import type { Destination, ConflictPolicy, SheetPackage } from '@folvex/core';
import { NameRule } from '../names/name-rule';

const POLICIES: readonly (readonly [ConflictPolicy, string])[] = [
  ['stop', 'do not begin'],
  ['both', 'keep both: the new one gets a number'],
  ['replace', 'replace it'],
];

/** Where the files of a package are delivered to. */
@Component({
  selector: 'fx-destination-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NameRule],
  template: `
    <label>
      <span class="fx-caption">Destination</span>
      <select #where class="fx-field" (change)="deliverTo(where.value)">
        <option value="">none: files are downloaded</option>
        <option value="folder" [selected]="destination()">a folder on the server</option>
      </select>
    </label>
    @if (destination(); as destination) {
      <fx-name-rule caption="Folder delivered to" [rule]="destination.folder" (edited)="say({ folder: $event })" />
      <p class="quiet">{{ root() }}</p>
      <label>
        <span class="fx-caption">If a file of that name exists</span>
        <select #policy class="fx-field" (change)="say({ onConflict: policyOf(policy.value) })">
          @for (option of policies; track option[0]) {
            <option [value]="option[0]" [selected]="option[0] === destination.onConflict">{{ option[1] }}</option>
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
  /** The folder as it comes to today; empty until it is known. */
  readonly root = input.required<string>();
  readonly changed = output<PackageChange>();
  protected readonly policies = POLICIES;
  protected readonly destination = computed(() => this.pack().destination);

  protected deliverTo(where: string): void {
    this.changed.emit({ destination: where ? { folder: '[project.number]', onConflict: 'stop' } : null });
  }

  protected say(said: Partial<Destination>): void {
    this.changed.emit({ destination: { ...this.destination()!, ...said } });
  }

  protected policyOf(value: string): ConflictPolicy {
    return value as ConflictPolicy;
  }
}
