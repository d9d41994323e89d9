import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PackageChange } from '@folvex/contract';
import type { ColourMode, SheetPackage } from '@folvex/core';
import type { StripPage } from '../state/project.selectors';
import { without } from '../ui/without';

/** What is said of one page of a package, for this package only. */
@Component({
  selector: 'fx-page-options',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let chosen = page();
    <b>{{ chosen.sheet.number || chosen.sheet.title }}</b>
    @if (chosen.extra; as extra) {
      <label>
        <span class="fx-caption">Number</span>
        <input #number class="fx-field short" [value]="extra.number" (change)="retitle(number.value, title.value)" />
      </label>
      <label>
        <span class="fx-caption">Title</span>
        <input #title class="fx-field" [value]="extra.title" (change)="retitle(number.value, title.value)" />
      </label>
    }
    <label class="check">
      <input
        #skip
        type="checkbox"
        [checked]="chosen.options.skip === true"
        (change)="say({ skip: skip.checked ? true : undefined })"
      />
      leave out this time
    </label>
    <label>
      <span class="fx-caption">Colours</span>
      <select #colour class="fx-field" (change)="say({ colour: colourOf(colour.value) })">
        @for (option of colours; track option[0]) {
          <option [value]="option[0]" [selected]="option[0] === (chosen.options.colour ?? '')">{{ option[1] }}</option>
        }
      </select>
    </label>
    <label>
      <span class="fx-caption">Stays right behind</span>
      <select #behind class="fx-field" (change)="follow(behind.value)">
        <option value="">no page in particular</option>
        @for (other of others(); track other.id) {
          <option [value]="other.id" [selected]="other.id === leader()">
            {{ other.sheet.number }} {{ other.sheet.title }}
          </option>
        }
      </select>
    </label>
    @if (chosen.byRule) {
      <span class="quiet">Here by the package's rule.</span>
    }
    <span class="more">
      <button type="button" class="fx-link" (click)="extraAskedFor.emit('divider')">Divider before it</button>
      <button type="button" class="fx-link" (click)="extraAskedFor.emit('index')">List of sheets</button>
      <button type="button" class="fx-link" (click)="sortAskedFor.emit()">Sort by number</button>
    </span>
  `,
  styles: `
    :host {
      display: flex;
      flex: none;
      flex-wrap: wrap;
      align-items: end;
      gap: var(--fx-gap-4);
      padding: var(--fx-gap-2) var(--fx-gap-4);
      border-top: 1px solid var(--fx-line);
      background: var(--fx-raised);
    }
    b,
    .check,
    .quiet {
      align-self: center;
    }
    label:not(.check) {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    .more {
      display: flex;
      flex: none;
      align-self: center;
      gap: var(--fx-gap-3);
      margin-left: auto;
    }
    .short {
      width: 64px;
    }
    select {
      max-width: 150px;
    }
  `,
})
export class PageOptionsBar {
  readonly pack = input.required<SheetPackage>();
  readonly pages = input.required<readonly StripPage[]>();
  readonly page = input.required<StripPage>();
  readonly changed = output<PackageChange>();
  readonly extraAskedFor = output<'divider' | 'index'>();
  readonly sortAskedFor = output();

  protected readonly colours: readonly (readonly [ColourMode | '', string])[] = [
    ['', 'as the recipe says'],
    ['full', 'full colour'],
    ['greys', 'greys'],
    ['black', 'all black'],
  ];
  protected readonly others = computed(() => this.pages().filter(({ id }) => id !== this.page().id));
  protected readonly leader = computed(() => this.pack().after?.[this.page().id] ?? '');

  protected colourOf(value: string): ColourMode | undefined {
    return value === '' ? undefined : (value as ColourMode);
  }

  protected say(options: { skip?: true | undefined; colour?: ColourMode | undefined }): void {
    const now: Record<string, unknown> = { ...this.page().options, ...options };
    for (const key of Object.keys(now)) if (now[key] === undefined) delete now[key];
    const others = without(this.pack().pages, this.page().id);
    this.changed.emit({ pages: Object.keys(now).length > 0 ? { ...others, [this.page().id]: now } : others });
  }

  protected follow(leader: string): void {
    const others = without(this.pack().after, this.page().id);
    this.changed.emit({ after: leader ? { ...others, [this.page().id]: leader } : others });
  }

  protected retitle(number: string, title: string): void {
    const extras = (this.pack().extras ?? []).map((extra) =>
      extra.id === this.page().id ? { ...extra, number: number.trim(), title: title.trim() } : extra,
    );
    this.changed.emit({ extras });
  }
}
