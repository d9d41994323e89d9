import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { PackageChange } from '@folvex/contract';
import {
  EXTRA_FORMATS,
  FORMATS,
  PAGE_COLOUR_OPTIONS,
  type ColourMode,
  type PageOptions,
  type SheetPackage,
} from '@folvex/core';
import type { StripPage } from '../../../state/project.selectors';
import { omitKey } from '../../../ui/omit-key';
import { StampList } from './stamp-list';

const MAX_COPIES = 99;
/** What sets are often reduced to, or enlarged (common practice). */
const PAPERS = ['A4', 'A3', 'A2', 'A1', 'A0', 'A (ASME)', 'B (ASME)', 'C (ASME)', 'D (ASME)', 'E (ASME)'];

/** Options of one page, for this package only. */
@Component({
  selector: 'fx-page-options',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, StampList],
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
      leave out
    </label>
    <label>
      <span class="fx-caption">Colours</span>
      <select #colour class="fx-field" (change)="say({ colour: colourOf(colour.value) })">
        @for (option of colours; track option.value) {
          <option [value]="option.value ?? ''" [selected]="option.value === chosen.options.colour">
            {{ option.words }}
          </option>
        }
      </select>
    </label>
    <label>
      <span class="fx-caption">Paper</span>
      <select #paper class="fx-field" (change)="say({ paper: paperOf(paper.value) })">
        <option value="">its own</option>
        @for (name of papers; track name) {
          <option [value]="name" [selected]="name === paperNow()">{{ name }}</option>
        }
      </select>
    </label>
    <label>
      <span class="fx-caption">Copies</span>
      <input
        #copies
        class="fx-field short"
        type="number"
        min="1"
        max="99"
        [value]="chosen.options.copies ?? 1"
        (change)="say({ copies: copiesOf(copies.valueAsNumber) })"
      />
    </label>
    <label>
      <span class="fx-caption">Stays behind</span>
      <select #behind class="fx-field" (change)="follow(behind.value)">
        <option value="">no other page</option>
        @for (other of others(); track other.id) {
          <option [value]="other.id" [selected]="other.id === leader()">
            {{ other.sheet.number }} {{ other.sheet.title }}
          </option>
        }
      </select>
    </label>
    @if (!chosen.extra || chosen.extra.kind === 'space') {
      <label>
        <span class="fx-caption">Beside PDF</span>
        <select #chosenFormats class="fx-field" (change)="say({ extraFormats: formatsOf(chosenFormats.value) })">
          <option value="">as the package</option>
          <option value="-" [selected]="formatsNow() === '-'">nothing</option>
          @for (format of formats; track format) {
            <option [value]="format" [selected]="formatsNow() === format">{{ formatFacts[format].name }}</option>
          }
          @if (formatsNow().includes(' ')) {
            <option [value]="formatsNow()" selected>{{ formatsNow() }}</option>
          }
        </select>
      </label>
    }
    <details>
      <summary class="fx-caption">Stamps on this page{{ stamps().length ? ': ' + stamps().length : '' }}</summary>
      <fx-stamp-list
        class="wide"
        [stamps]="stamps()"
        (changed)="say({ stamps: $event.length > 0 ? $event : undefined })"
      />
    </details>
    @if (chosen.byRule) {
      <span class="quiet">Here by the package's rule.</span>
    }
    <span class="more">
      @if (paperNow(); as name) {
        <button matButton type="button" class="fx-act" (click)="allOn()">All pages on {{ name }}</button>
      }
      <button matButton type="button" class="fx-act" (click)="extraAskedFor.emit('divider')">Divider before it</button>
      <button matButton type="button" class="fx-act" (click)="extraAskedFor.emit('index')">List of sheets</button>
      <button matButton type="button" class="fx-act" (click)="sortAskedFor.emit()">Sort by number</button>
    </span>
  `,
  styles: `
    :host {
      display: flex;
      flex: none;
      flex-wrap: wrap;
      align-items: end;
      gap: var(--fx-gap-2) var(--fx-gap-3);
      padding: var(--fx-gap-2) var(--fx-gap-4);
      border-top: 1px solid var(--fx-line);
      background: var(--fx-raised);
    }
    b,
    details,
    .check,
    .quiet {
      align-self: center;
    }
    label:not(.check) {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-1);
    }
    .more {
      display: flex;
      flex: none;
      align-self: center;
      gap: var(--fx-gap-2);
      margin-left: auto;
    }
    .short {
      width: 52px;
    }
    details[open] {
      flex-basis: 100%;
    }
    select {
      width: 118px;
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

  protected readonly colours = PAGE_COLOUR_OPTIONS;
  protected readonly papers = PAPERS;
  protected readonly formats = EXTRA_FORMATS;
  protected readonly formatFacts = FORMATS;
  /** Formats of this page with blanks between, a dash for none, empty where they are the package's. */
  protected readonly formatsNow = computed(() => {
    const { extraFormats } = this.page().options;
    return extraFormats ? extraFormats.join(' ') || '-' : '';
  });
  protected readonly paperNow = computed(() => this.page().options.paper?.name ?? '');
  protected readonly stamps = computed(() => this.page().options.stamps ?? []);
  protected readonly others = computed(() => this.pages().filter(({ id }) => id !== this.page().id));
  protected readonly leader = computed(() => this.pack().after?.[this.page().id] ?? '');

  protected colourOf(value: string): ColourMode | undefined {
    return value === '' ? undefined : (value as ColourMode);
  }

  protected paperOf(name: string): PageOptions['paper'] {
    return name === '' ? undefined : { name, orientation: 'landscape' };
  }

  protected formatsOf(value: string): PageOptions['extraFormats'] {
    if (value === '') return undefined;
    return value === '-' ? [] : EXTRA_FORMATS.filter((format) => value.split(' ').includes(format));
  }

  protected copiesOf(count: number): number | undefined {
    const copies = Math.min(MAX_COPIES, Math.round(count));
    return copies > 1 ? copies : undefined;
  }

  /** Prints every page on the paper of this one: a set of half its size, say. */
  protected allOn(): void {
    const { paper } = this.page().options;
    const now = this.pack().pages ?? {};
    const pages = Object.fromEntries(this.pages().map(({ id }) => [id, { ...now[id], ...(paper && { paper }) }]));
    this.changed.emit({ pages });
  }

  protected say(options: Partial<Record<keyof PageOptions, unknown>>): void {
    const now: Record<string, unknown> = { ...this.page().options, ...options };
    for (const key of Object.keys(now)) if (now[key] === undefined) delete now[key];
    const others = omitKey(this.pack().pages, this.page().id);
    this.changed.emit({ pages: Object.keys(now).length > 0 ? { ...others, [this.page().id]: now } : others });
  }

  protected follow(leader: string): void {
    const others = omitKey(this.pack().after, this.page().id);
    this.changed.emit({ after: leader ? { ...others, [this.page().id]: leader } : others });
  }

  protected retitle(number: string, title: string): void {
    const extras = (this.pack().extras ?? []).map((extra) =>
      extra.id === this.page().id ? { ...extra, number: number.trim(), title: title.trim() } : extra,
    );
    this.changed.emit({ extras });
  }
}
