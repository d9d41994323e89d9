import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
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

/** Resolutions for screens, letters, and print (common practice). */
const RESOLUTIONS = [72, 96, 150, 200, 300, 400, 600];
const USES: Readonly<Record<ExtraFormat, string>> = {
  dxf: 'lines at paper size, for drafting',
  svg: 'lines, for the web and for layout',
  png: 'picture without loss',
  tiff: 'picture for print shops and archives',
  jpeg: 'small picture',
};

/** The formats besides PDF that the sheets of a package are written in. */
@Component({
  selector: 'fx-formats-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details>
      <summary class="fx-caption">Beside PDF: {{ words() }}</summary>
      <p class="quiet">A file a sheet, named by the rule for a file per sheet.</p>
      @for (format of formats; track format) {
        <label class="format">
          <input #on type="checkbox" [checked]="chosen().includes(format)" (change)="toggle(format, on.checked)" />
          {{ formatFacts[format].name }} <span class="quiet">{{ uses[format] }}</span>
        </label>
      }
      @if (chosen().length > 0) {
        <label class="format">
          <input #apart type="checkbox" [checked]="current().apart === true" (change)="say({ apart: apart.checked })" />
          each format in a folder of its own
        </label>
      }
      @if (pictures()) {
        <label class="dpi">
          <span class="fx-caption">Dots to the inch of pictures</span>
          <select #dpi class="fx-field measure" (change)="say({ dpi: +dpi.value })">
            @for (one of resolutions(); track one) {
              <option [value]="one" [selected]="one === dpiNow()">{{ one }}</option>
            }
          </select>
        </label>
      }
    </details>
  `,
  styles: `
    details {
      display: grid;
    }
    .format,
    .dpi {
      display: flex;
      align-items: center;
      gap: 4px;
      min-height: var(--fx-row);
    }
    .quiet {
      margin: 0;
      color: var(--fx-quiet);
    }
    select {
      width: 84px;
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
  protected readonly resolutions = computed(() => [...new Set([...RESOLUTIONS, this.dpiNow()])].sort((a, b) => a - b));
  protected readonly words = computed(() => {
    if (this.chosen().length === 0) return 'nothing';
    const named = EXTRA_FORMATS.filter((format) => this.chosen().includes(format)).map((one) => FORMATS[one].name);
    return named.join(', ') + (this.pictures() ? `; ${this.dpiNow()} dpi` : '');
  });

  protected toggle(format: ExtraFormat, on: boolean): void {
    const others = this.chosen().filter((one) => one !== format);
    this.say({ formats: on ? [...others, format] : others });
  }

  protected say(said: { formats?: ExtraFormat[]; apart?: boolean; dpi?: number }): void {
    const { formats, dpi, apart } = { ...this.current(), ...said };
    const next: ExtraFormats = { formats, ...(dpi !== undefined && { dpi }), ...(apart && { apart: true }) };
    this.changed.emit({ extraFormats: formats.length > 0 ? next : null });
  }
}
