import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatOption } from '@angular/material/core';
import { MatFormField } from '@angular/material/form-field';
import { MatSelect, MatSelectTrigger } from '@angular/material/select';
import type { PackageChange } from '@folvex/contract';
import {
  EXTRA_FORMATS,
  DEFAULT_DPI,
  FORMATS,
  isPicture,
  type ExtraFormats,
  type ExtraFormat,
  type SheetPackage,
} from '@folvex/core';
import { ChoiceField } from '../../../forms/choice-field';
import { changedFormats, type FormatsChange } from './changed-formats';

/** Resolutions for screens, letters, and print (common practice). */
const RESOLUTIONS = [72, 96, 150, 200, 300, 400, 600];
const USES: Readonly<Record<ExtraFormat, string>> = {
  dxf: 'lines, as on paper or at true size, for drafting',
  svg: 'lines, for the web and for layout',
  png: 'picture without loss',
  tiff: 'picture for print shops and archives',
  jpeg: 'small picture',
};

/** The formats besides PDF that the sheets of a package are written in. */
@Component({
  selector: 'fx-formats-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatCheckbox, MatFormField, MatOption, MatSelect, MatSelectTrigger],
  template: `
    <span class="fx-caption" id="other-formats">Other formats</span>
    <mat-form-field>
      <mat-select
        multiple
        panelWidth=""
        aria-labelledby="other-formats"
        placeholder="PDF only"
        [value]="chosen()"
        (selectionChange)="change({ formats: $event.value })"
      >
        <mat-select-trigger>{{ names() }}</mat-select-trigger>
        @for (format of formats; track format) {
          <mat-option [value]="format">
            {{ formatFacts[format].name }} <span class="quiet">{{ uses[format] }}</span>
          </mat-option>
        }
      </mat-select>
    </mat-form-field>
    @if (chosen().length > 0) {
      <div class="more">
        @if (pictures()) {
          <fx-choice
            caption="Resolution of pictures"
            [value]="dpiNow()"
            [options]="resolutions()"
            (chosen)="change({ dpi: $event })"
          />
        }
        <mat-checkbox [checked]="current().apart === true" (change)="change({ apart: $event.checked })">
          A folder for each format
        </mat-checkbox>
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 2px;
    }
    .more {
      display: grid;
      gap: var(--fx-gap-2);
    }
  `,
})
export class FormatsPanel {
  readonly pack = input.required<SheetPackage>();
  readonly changed = output<PackageChange>();

  protected readonly formats = EXTRA_FORMATS;
  protected readonly formatFacts = FORMATS;
  protected readonly uses = USES;
  protected readonly current = computed((): ExtraFormats => this.pack().extraFormats ?? { formats: [] });
  protected readonly chosen = computed(() => this.current().formats);
  protected readonly pictures = computed(() => this.chosen().some(isPicture));
  protected readonly dpiNow = computed(() => this.current().dpi ?? DEFAULT_DPI);
  protected readonly resolutions = computed(() =>
    [...new Set([...RESOLUTIONS, this.dpiNow()])]
      .sort((a, b) => a - b)
      .map((dpi) => ({ value: dpi, words: `${dpi} dpi` })),
  );
  protected readonly names = computed(() =>
    EXTRA_FORMATS.filter((format) => this.chosen().includes(format))
      .map((format) => FORMATS[format].name)
      .join(', '),
  );

  protected change(change: FormatsChange): void {
    const next = changedFormats(this.current(), change);
    this.changed.emit({ extraFormats: next.formats.length > 0 ? next : null });
  }
}
