import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PackageChange } from '@folvex/contract';
import { EXTRA_FORMAT_OPTIONS, type ExtraFormats, type SheetPackage } from '@folvex/core';
import { ChoiceField } from '../../../forms/choice-field';
import { Fold } from '../../../ui/fold';
import { changedFormats } from './changed-formats';

type DxfSetting = Extract<(typeof EXTRA_FORMAT_OPTIONS)[number], { key: `dxf${string}` }>;
const SETTINGS = EXTRA_FORMAT_OPTIONS.filter((setting) => setting.key.startsWith('dxf')) as DxfSetting[];
/** How many of them the line above them says. */
const SAID = 2;

/** How a package has its DXF files written; nothing where it has none. */
@Component({
  selector: 'fx-dxf-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, Fold],
  template: `
    @if (formats(); as formats) {
      <fx-fold [caption]="'DXF files: ' + said()">
        <div class="settings">
          @for (setting of settings; track setting.key) {
            <div>
              <fx-choice
                [caption]="setting.caption"
                [value]="formats[setting.key]"
                [options]="setting.options"
                (chosen)="change(setting.key, $event)"
              />
            </div>
          }
        </div>
      </fx-fold>
    }
  `,
  styles: `
    .settings {
      display: grid;
      grid-template-columns: 1fr 1fr;
      align-items: end;
      gap: var(--fx-gap-2);
    }
  `,
})
export class DxfPanel {
  readonly pack = input.required<SheetPackage>();
  readonly changed = output<PackageChange>();

  protected readonly settings = SETTINGS;
  protected readonly formats = computed((): ExtraFormats | undefined => {
    const { extraFormats, pages = {} } = this.pack();
    const some = [extraFormats?.formats, ...Object.values(pages).map((page) => page.extraFormats)];
    return some.some((formats) => formats?.includes('dxf')) ? (extraFormats ?? { formats: [] }) : undefined;
  });
  protected readonly said = computed(() =>
    SETTINGS.slice(0, SAID)
      .map(({ key, options }) => options.find(({ value }) => value === this.formats()?.[key])?.words)
      .join(', '),
  );

  protected change(key: DxfSetting['key'], value: unknown): void {
    const { extraFormats = { formats: [] } } = this.pack();
    this.changed.emit({ extraFormats: changedFormats(extraFormats, { [key]: value }) });
  }
}
