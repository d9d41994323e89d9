import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PackageChange } from '@folvex/contract';
import type { Group, PrintedStamp, SheetPackage } from '@folvex/core';

const hexOf = (colour: number): string => `#${colour.toString(16).padStart(6, '0')}`;

/** What a package is for, which sheets it takes in by itself, and what it prints over its pages. */
@Component({
  selector: 'fx-package-rules',
  changeDetection: ChangeDetectionStrategy.OnPush,
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
      @for (stamp of stamps(); track $index; let at = $index) {
        <div class="stamp">
          <input
            #text
            class="fx-field"
            aria-label="Text of the stamp"
            [value]="stamp.text"
            (change)="stampSays(at, { text: text.value })"
          />
          <select
            #place
            class="fx-field"
            aria-label="Place of the stamp"
            (change)="stampSays(at, { at: placeOf(place.value) })"
          >
            @for (option of places; track option[0]) {
              <option [value]="option[0]" [selected]="option[0] === stamp.at">{{ option[1] }}</option>
            }
          </select>
          <input
            #size
            class="fx-field measure"
            type="number"
            min="1"
            max="100"
            aria-label="Height of the stamp, mm"
            [value]="stamp.size"
            (change)="stampSays(at, { size: clamped(size.valueAsNumber, stamp.size) })"
          />
          <input
            #colour
            type="color"
            aria-label="Colour of the stamp"
            [value]="hex(stamp.colour)"
            (change)="stampSays(at, { colour: number(colour.value) })"
          />
          <button type="button" class="fx-link" (click)="removeStamp(at)">Remove</button>
          <label class="under">
            <input #under type="checkbox" [checked]="stamp.under" (change)="layStamp(at, under.checked)" />
            under the drawing
          </label>
        </div>
      }
      @if (stamps().length > 0) {
        <p class="quiet">Fields as in names, and [run.id]: what says its run is made anew each time.</p>
      }
      <button type="button" class="fx-link" (click)="addStamp()">Add a stamp</button>
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
    .stamp {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 56px 34px auto;
      align-items: center;
      gap: var(--fx-gap-2);
      margin: var(--fx-gap-2) 0;

      > :first-child,
      > .under {
        grid-column: 1 / -1;
        display: flex;
        align-items: center;
        gap: 4px;
      }
    }
    [type='color'] {
      width: 34px;
      height: var(--fx-row);
      padding: 2px;
      border: 1px solid var(--fx-line-strong);
      background: none;
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

  protected readonly hex = hexOf;
  protected readonly places: readonly (readonly [PrintedStamp['at'], string])[] = [
    ['top', 'upper edge'],
    ['bottom', 'lower edge'],
    ['middle', 'across, as a tint'],
  ];
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

  protected placeOf(value: string): PrintedStamp['at'] {
    return value as PrintedStamp['at'];
  }

  protected number(hex: string): number {
    return Number.parseInt(hex.slice(1), 16);
  }

  protected clamped(size: number, before: number): number {
    return Number.isFinite(size) ? Math.min(100, Math.max(1, size)) : before;
  }

  protected stampSays(at: number, said: Partial<PrintedStamp>): void {
    if (said.text?.trim() === '') return this.removeStamp(at);
    this.say({ stamps: this.stamps().map((stamp, i) => (i === at ? { ...stamp, ...said } : stamp)) });
  }

  protected layStamp(at: number, below: boolean): void {
    const stamps = this.stamps().map((stamp, i): PrintedStamp => {
      if (i !== at) return stamp;
      const { text, at: place, size, colour } = stamp;
      return { text, at: place, size, colour, ...(below && { under: true as const }) };
    });
    this.say({ stamps });
  }

  protected addStamp(): void {
    this.say({
      stamps: [...this.stamps(), { text: 'PRELIMINARY [run.date]', at: 'top', size: 3.5, colour: 0xb93a14 }],
    });
  }

  protected removeStamp(at: number): void {
    this.say({ stamps: this.stamps().filter((_, i) => i !== at) });
  }
}
