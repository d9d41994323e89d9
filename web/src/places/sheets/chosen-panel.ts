import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { drawingsShown, sourcesShown, type PaperSize, type Sheet } from '@folvex/core';
import { ChoiceField } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { ComposedPages } from '../../state/composed/composed-pages';
import { selectAllDrawings } from '../../state/drawings/drawings.selectors';
import { selectAllPackages } from '../../state/packages/packages.selectors';
import { selectLaidOutScales } from '../../state/sheets/sheets.selectors';
import { selectPageSources } from '../../state/pages/page-sources';
import { projectFeature } from '../../state/project/project.reducer';
import { SheetEditor } from '../../state/sheets/sheet-editor';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { optionsByName } from '../../ui/choices';
import { countOf, paperInWords, scalesInWords } from '../../ui/words';
import { CopySettings } from './copy-settings';
import { GroupSettingsPanel } from './group-settings';
import { SeveralPanel } from './several-panel';
import { choice } from '../../ui/choice-signal';
import { ProjectLinks } from '../../state/project/project-links';

/** What is chosen on the wall: one sheet's fields to change, or several sheets to put into a package. */
@Component({
  selector: 'fx-chosen-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    CopySettings,
    GroupSettingsPanel,
    MatButton,
    MatIcon,
    MatIconButton,
    RouterLink,
    SeveralPanel,
    TextField,
  ],
  templateUrl: './chosen-panel.html',
  styleUrl: './chosen-panel.scss',
  host: { class: 'fx-side' },
})
export class ChosenPanel {
  protected readonly to = inject(ProjectLinks).to;
  readonly sheets = input.required<readonly Sheet[]>();
  readonly papers = input.required<Readonly<Record<string, PaperSize>>>();
  readonly closed = output();

  private readonly store = inject(Store);
  private readonly editor = inject(SheetEditor);
  protected readonly packages = this.store.selectSignal(selectAllPackages);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly groupOptions = computed(() => [{ value: '', words: 'No group' }, ...optionsByName(this.groups())]);
  protected readonly packageOptions = computed(() => optionsByName(this.packages()));
  private readonly laidOut = this.store.selectSignal(selectLaidOutScales);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  protected readonly one = computed(() => (this.sheets().length === 1 ? this.sheets()[0]! : null));
  protected readonly heading = computed(() => this.one()?.number ?? countOf(this.sheets().length, 'sheet'));
  protected readonly paper = computed(() => {
    const words = new Set(this.sheets().map((sheet) => paperInWords(this.papers()[sheet.id]!)));
    return words.size === 1 ? [...words][0]! : 'mixed';
  });
  protected readonly scale = computed(() => {
    const one = this.one();
    if (one) return scalesInWords(one, this.facts()?.viewports ?? this.laidOut()[one.id]);
    const words = new Set(this.sheets().map((sheet) => scalesInWords(sheet, this.laidOut()[sheet.id])));
    return words.size === 1 ? [...words][0]! : 'mixed';
  });
  protected readonly shows = computed(() => {
    const ids = new Set(this.sheets().flatMap(drawingsShown));
    return this.drawings()
      .filter(({ id }) => ids.has(id))
      .map(({ id, name, version }) => ({ id, name, version, held: this.heldAt(id) }));
  });
  private readonly sources = this.store.selectSignal(selectPageSources);
  private readonly facts = inject(ComposedPages).one(() => {
    const id = this.one()?.id;
    const source = id === undefined ? undefined : this.sources()[id];
    return id !== undefined && source ? { id, version: source.version } : undefined;
  });
  /** Warnings about the chosen sheet's drawings; why a sheet cannot be composed is in its picture. */
  protected readonly warnings = computed(() => this.facts()?.warnings ?? []);
  protected readonly within = computed(() =>
    this.packages().filter(({ order }) => {
      const held = new Set(order);
      return this.sheets().every(({ id }) => held.has(id));
    }),
  );
  protected readonly target = choice(() => this.packages()[0]?.id ?? '');
  /** Sheets that the target does not hold yet. */
  protected readonly missing = computed(() => {
    const pack = this.packages().find(({ id }) => id === this.target());
    const held = new Set(pack?.order);
    return this.sheets().filter(({ id }) => !held.has(id));
  });

  /** The oldest version of a drawing that the chosen sheet holds; undefined where it follows. */
  private heldAt(drawing: string): number | undefined {
    const one = this.one();
    const held = one
      ? sourcesShown(one).flatMap((source) => (source.drawing === drawing ? (source.held ?? []) : []))
      : [];
    return held.length > 0 ? Math.min(...held) : undefined;
  }

  protected hold(drawing: string, held: boolean): void {
    const sheetId = this.one()?.id;
    if (sheetId) this.store.dispatch(SheetActions.sheetEdited({ sheetId, change: { hold: { drawing, held } } }));
  }

  protected change(field: 'number' | 'title' | 'group', value: string): void {
    const sheet = this.one();
    const trimmed = value.trim();
    if (!sheet || trimmed === sheet[field] || (field === 'number' && trimmed === '')) return;
    this.editor.change(sheet.id, { [field]: trimmed });
  }

  protected copy(sheetId: string): void {
    this.store.dispatch(SheetActions.copyAskedFor({ sheetId }));
  }

  protected remove(): void {
    this.store.dispatch(SheetActions.removalAskedFor({ ids: this.sheets().map(({ id }) => id) }));
  }

  protected put(): void {
    const sheetIds = this.sheets().map(({ id }) => id);
    this.store.dispatch(SheetActions.sheetsPutInPackage({ packageId: this.target(), sheetIds }));
  }
}
