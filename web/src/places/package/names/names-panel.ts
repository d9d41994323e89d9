import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { PackageChange } from '@folvex/contract';
import { BLANKS_OPTIONS, REPLACEMENTS, type KeptNames, type SheetPackage } from '@folvex/core';
import { NameRule } from './name-rule';

/** How the files and folders of a package are named, and what is done about blanks and characters that cannot stay. */
@Component({
  selector: 'fx-names-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NameRule],
  template: `
    @let pack = this.pack();
    @if (kept().length > 0) {
      <label>
        <span class="fx-caption">Take kept naming rules</span>
        <select #take class="fx-field" (change)="takeNames(take.value); take.value = ''">
          <option value="">choose some …</option>
          @for (rules of kept(); track rules.id) {
            <option [value]="rules.id">{{ rules.name }}</option>
          }
        </select>
      </label>
    }
    @if (pack.bundling === 'sheet') {
      <fx-name-rule caption="File name" [rule]="pack.names.file" ofSheet (edited)="rename('file', $event)" />
    } @else {
      <fx-name-rule caption="File name" [rule]="pack.names.bundle" (edited)="rename('bundle', $event)" />
      @if (ofSheets()) {
        <fx-name-rule
          caption="Name of files in other formats"
          [rule]="pack.names.file"
          ofSheet
          (edited)="rename('file', $event)"
        />
      }
    }
    <fx-name-rule caption="Folder (none when empty)" [rule]="pack.names.folder" (edited)="rename('folder', $event)" />
    <label>
      <span class="fx-caption">Blank fields in names</span>
      <select #blanks class="fx-field" (change)="changed.emit({ blanks: blanks.value === 'skip' ? 'skip' : 'stop' })">
        @for (option of blanksOptions; track option.value) {
          <option [value]="option.value" [selected]="option.value === (pack.blanks ?? 'stop')">
            {{ option.words }}
          </option>
        }
      </select>
    </label>
    <details>
      <summary class="fx-caption">What cannot stay in a name</summary>
      <p>
        {{ replaced }}. Dots and spaces at the end are dropped, names that Windows keeps for itself get _ behind, and
        what is longer than 255 bytes is cut, which … shows.
      </p>
    </details>
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-3);
    }
    label {
      display: block;
    }
    summary {
      cursor: pointer;
    }
    p {
      color: var(--fx-quiet);
    }
  `,
})
export class NamesPanel {
  readonly pack = input.required<SheetPackage>();
  readonly kept = input.required<readonly KeptNames[]>();
  readonly changed = output<PackageChange>();
  protected readonly blanksOptions = BLANKS_OPTIONS;
  protected readonly replaced = inWords();
  /** Whether sheets have files of their own besides the PDFs. */
  protected readonly ofSheets = computed(() => {
    const { extraFormats, pages = {} } = this.pack();
    return extraFormats !== undefined || Object.values(pages).some((page) => page.extraFormats?.length);
  });

  protected takeNames(id: string): void {
    const kept = this.kept().find((rules) => rules.id === id);
    if (kept) this.changed.emit({ names: { file: kept.file, folder: kept.folder, bundle: kept.bundle } });
  }

  protected rename(part: keyof SheetPackage['names'], rule: string): void {
    this.changed.emit({ names: { ...this.pack().names, [part]: rule } });
  }
}

/** The table of replacements as a sentence without its end. */
function inWords(): string {
  const entries = Object.entries(REPLACEMENTS);
  const become = entries.filter(([, to]) => to !== '').map(([from, to]) => `${from} becomes ${to}`);
  const dropped = entries.filter(([, to]) => to === '').map(([from]) => from);
  return `${become.join(', ')}; ${dropped.join(' and ')} are dropped`;
}
