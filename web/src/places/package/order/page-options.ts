import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import type { PackageChange } from '@folvex/contract';
import {
  EXTRA_FORMATS,
  FORMATS,
  isPlacementKey,
  PAGE_COLOUR_OPTIONS,
  type PageOptions,
  type PictureFacts,
  type SheetPackage,
} from '@folvex/core';
import type { StripPage } from '../../../state/packages/packages.selectors';
import { ChoiceField } from '../../../forms/choice-field';
import { NumberField } from '../../../forms/number-field';
import { TextField } from '../../../forms/text-field';
import { sheetOptions } from '../../../ui/choices';
import { Fold } from '../../../ui/fold';
import { omitKey } from '../../../state/omit-key';
import { PaperPlacementPanel } from './paper-placement';
import { StampList } from './stamp-list';

/** What sets are often reduced to, or enlarged (common practice). */
const PAPERS = ['A4', 'A3', 'A2', 'A1', 'A0', 'A (ASME)', 'B (ASME)', 'C (ASME)', 'D (ASME)', 'E (ASME)'];

/** Options of one page, for this package only. */
@Component({
  selector: 'fx-page-options',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, Fold, MatButton, MatCheckbox, NumberField, PaperPlacementPanel, StampList, TextField],
  template: `
    @let chosen = page();
    <b>{{ chosen.sheet.number || chosen.sheet.title }}</b>
    @if (chosen.extra; as extra) {
      <fx-text class="short" caption="Number" [value]="extra.number" (entered)="retitle($event, extra.title)" />
      <fx-text caption="Title" [value]="extra.title" (entered)="retitle(extra.number, $event)" />
    }
    <mat-checkbox
      [checked]="chosen.options.skip === true"
      (change)="change({ skip: $event.checked ? true : undefined })"
    >
      Leave out
    </mat-checkbox>
    <fx-choice
      caption="Colours"
      [value]="chosen.options.colour"
      [options]="colours"
      (chosen)="change({ colour: $event })"
    />
    <fx-choice caption="Paper" [value]="paperNow()" [options]="papers" (chosen)="change({ paper: paperOf($event) })" />
    <fx-number
      class="short"
      caption="Copies"
      whole
      [value]="chosen.options.copies ?? 1"
      [min]="1"
      [max]="99"
      (entered)="change({ copies: $event === 1 ? undefined : $event })"
    />
    <fx-choice caption="Keep after page" [value]="leader()" [options]="leaders()" (chosen)="follow($event)" />
    @if (!chosen.extra || chosen.extra.kind === 'space') {
      <fx-choice
        caption="Other formats"
        [value]="formatsNow()"
        [options]="formatOptions()"
        (chosen)="change({ extraFormats: formatsOf($event) })"
      />
    }
    <fx-paper-placement
      class="stamps"
      [options]="chosen.options"
      [pictures]="pictures()"
      [recipeDpi]="recipeDpi()"
      (changed)="change($event)"
    />
    <fx-fold class="stamps" [caption]="'Stamps on this page' + (stamps().length ? ': ' + stamps().length : '')">
      <fx-stamp-list
        class="wide"
        [stamps]="stamps()"
        (changed)="change({ stamps: $event.length > 0 ? $event : undefined })"
      />
    </fx-fold>
    @if (chosen.byRule) {
      <span class="quiet">Included by the package's rule.</span>
    }
    <span class="more">
      @if (placed()) {
        <button matButton type="button" class="fx-act" (click)="placeAll()">Place all pages like this</button>
      }
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
    fx-choice {
      width: 138px;
    }
    .more {
      display: flex;
      flex: none;
      align-self: center;
      gap: var(--fx-gap-2);
      margin-left: auto;
    }
    .short {
      width: 72px;
    }
    .stamps {
      flex: 0 1 auto;
    }
  `,
})
export class PageOptionsBar {
  readonly pack = input.required<SheetPackage>();
  readonly pages = input.required<readonly StripPage[]>();
  readonly page = input.required<StripPage>();
  /** Pictures on the page, where that is known. */
  readonly pictures = input<readonly PictureFacts[]>();
  /** The resolution that the recipe of the package asks for. */
  readonly recipeDpi = input<number>();
  readonly changed = output<PackageChange>();

  protected readonly colours = PAGE_COLOUR_OPTIONS;
  protected readonly papers = [
    { value: '', words: 'its own' },
    ...PAPERS.map((name) => ({ value: name, words: name })),
  ];
  /** Formats of this page with blanks between, a dash for none, empty where they are the package's. */
  protected readonly formatsNow = computed(() => {
    const { extraFormats } = this.page().options;
    return extraFormats ? extraFormats.join(' ') || '-' : '';
  });
  protected readonly paperNow = computed(() => this.page().options.paper?.name ?? '');
  /** What the page says of how it is put on paper. */
  private readonly placement = computed(() =>
    Object.entries(this.page().options).filter(([key]) => isPlacementKey(key)),
  );
  protected readonly placed = computed(() => this.placement().length > 0);
  protected readonly stamps = computed(() => this.page().options.stamps ?? []);
  protected readonly leaders = computed(() => [
    { value: '', words: 'none' },
    ...sheetOptions(
      this.pages()
        .filter(({ id }) => id !== this.page().id)
        .map(({ id, sheet: { number, title } }) => ({ id, number, title })),
    ),
  ]);
  protected readonly formatOptions = computed(() => {
    const now = this.formatsNow();
    const several = now.includes(' ') ? [{ value: now, words: now }] : [];
    const each = EXTRA_FORMATS.map((format) => ({ value: format as string, words: FORMATS[format].name }));
    return [{ value: '', words: 'as the package' }, { value: '-', words: 'none' }, ...each, ...several];
  });
  protected readonly leader = computed(() => this.pack().after?.[this.page().id] ?? '');

  protected paperOf(name: string): PageOptions['paper'] {
    return name === '' ? undefined : { name, orientation: 'landscape' };
  }

  protected formatsOf(value: string): PageOptions['extraFormats'] {
    if (value === '') return undefined;
    return value === '-' ? [] : EXTRA_FORMATS.filter((format) => value.split(' ').includes(format));
  }

  /** Puts every page on paper as this one: a set of half its size, say. */
  protected placeAll(): void {
    const now = this.pack().pages ?? {};
    const pages = this.pages().map(({ id }) => {
      const others = Object.entries(now[id] ?? {}).filter(([key]) => !isPlacementKey(key));
      return [id, Object.fromEntries([...others, ...this.placement()])];
    });
    this.changed.emit({ pages: Object.fromEntries(pages) as SheetPackage['pages'] });
  }

  protected change(options: Partial<Record<keyof PageOptions, unknown>>): void {
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
