import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import type { PackageChange } from '@folvex/contract';
import { DXF_OPTIONS, type ExtraFormats, freeId, type KeptExchange, type SheetPackage } from '@folvex/core';
import { askName } from '../../../forms/ask-name';
import { ChoiceField } from '../../../forms/choice-field';
import { SettingsEditor } from '../../../state/project/settings-editor';
import { optionsByName } from '../../../ui/choices';
import { Fold } from '../../../ui/fold';
import { changedFormats } from './changed-formats';

type DxfSetting = (typeof DXF_OPTIONS)[number];
/** How many of them the line above them says. */
const SAID = 2;

/** How a package has its DXF files written; nothing where it has none. */
@Component({
  selector: 'fx-dxf-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, Fold, MatButton],
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
        <div class="kept">
          @if (kept().length > 0) {
            <fx-choice
              caption="Exchange setting"
              placeholder="Choose one"
              acts
              [options]="keptOptions()"
              (chosen)="use($event)"
            />
          }
          <button matButton type="button" class="fx-act" (click)="save()">Save as an exchange setting …</button>
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
    .kept {
      display: flex;
      align-items: end;
      gap: var(--fx-gap-2);
      margin-top: var(--fx-gap-2);
    }
  `,
})
export class DxfPanel {
  readonly pack = input.required<SheetPackage>();
  readonly changed = output<PackageChange>();

  private readonly dialog = inject(MatDialog);
  private readonly editor = inject(SettingsEditor);
  protected readonly kept = computed(() => this.editor.facts()?.exchanges ?? []);
  protected readonly keptOptions = computed(() => optionsByName(this.kept()));
  protected readonly settings = DXF_OPTIONS;
  protected readonly formats = computed((): ExtraFormats | undefined => {
    const { extraFormats, pages = {} } = this.pack();
    const some = [extraFormats?.formats, ...Object.values(pages).map((page) => page.extraFormats)];
    return some.some((formats) => formats?.includes('dxf')) ? (extraFormats ?? { formats: [] }) : undefined;
  });
  protected readonly said = computed(() =>
    DXF_OPTIONS.slice(0, SAID)
      .map(({ key, options }) => options.find(({ value }) => value === this.formats()?.[key])?.words)
      .join(', '),
  );

  protected change(key: DxfSetting['key'], value: unknown): void {
    const { extraFormats = { formats: [] } } = this.pack();
    this.changed.emit({ extraFormats: changedFormats(extraFormats, { [key]: value }) });
  }

  /** Writes the files as one of the project's exchange settings says. */
  protected use(id: string): void {
    const { extraFormats = { formats: [] } } = this.pack();
    const kept = this.kept().find((one) => one.id === id);
    if (!kept) return;
    const change = Object.fromEntries(DXF_OPTIONS.map(({ key }) => [key, kept[key]]));
    this.changed.emit({ extraFormats: changedFormats(extraFormats, change) });
  }

  /** Saves how the files are written under a name; replaces another setting of that name. */
  protected save(): void {
    const now = this.pack().extraFormats ?? { formats: [] };
    askName(this.dialog, { title: 'Save as an exchange setting', name: '', confirm: 'Save' }).subscribe((name) => {
      const options = Object.fromEntries(
        DXF_OPTIONS.flatMap(({ key }) => (now[key] === undefined ? [] : [[key, now[key]]])),
      );
      const same = this.kept().find((one) => one.name.toLowerCase() === name.toLowerCase());
      const fresh: KeptExchange = { id: same?.id ?? freeId(name, this.kept()), name, ...options };
      this.editor.changeFacts({ exchanges: [...this.kept().filter((one) => one !== same), fresh] });
    });
  }
}
