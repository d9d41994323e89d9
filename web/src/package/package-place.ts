import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  hasStop,
  movePage,
  recipeInWords,
  STANDARD_OVERLAP_MM,
  STANDARD_RECIPE,
  tileGrid,
  tilingOf,
  type Bundling,
  type SheetPackage,
} from '@folvex/core';
import type { PackageChange, RunOptions } from '@folvex/contract';
import { PackageActions } from '../state/project.actions';
import { projectFeature } from '../state/project.reducer';
import {
  selectAllPackages,
  selectLatestRun,
  selectOutput,
  selectPackage,
  selectPackageSheets,
  selectPageSources,
  selectSheetsOutside,
} from '../state/project.selectors';
import { EmptyState } from '../ui/empty-state';
import { counted, paperOfSheet, today } from '../ui/words';
import { Findings } from './findings';
import { NameRule } from './name-rule';
import { OutputTree } from './output-tree';
import { PageStrip } from './page-strip';
import { ProtectPanel } from './protect-panel';
import { RunProgress } from './run-progress';
import { SheetPicker } from './sheet-picker';
import { SizeChart } from './size-chart';

const BUNDLINGS: readonly { value: Bundling; words: string }[] = [
  { value: 'one', words: 'One file' },
  { value: 'sheet', words: 'A file per sheet' },
  { value: 'group', words: 'A file per group' },
];

/** Papers that offices print large sheets on in parts (common practice). */
const TILE_PAPERS = ['A4', 'A3', 'A2', 'A (ASME)', 'B (ASME)'];

/** A package: its pages in reading order, the files that publishing would write, the checks, and the publishing. */
@Component({
  selector: 'fx-package-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    EmptyState,
    Findings,
    FormsModule,
    MatButton,
    MatButtonToggle,
    MatButtonToggleGroup,
    MatIcon,
    NameRule,
    OutputTree,
    PageStrip,
    ProtectPanel,
    RouterLink,
    RunProgress,
    SheetPicker,
    SizeChart,
  ],
  templateUrl: './package-place.html',
  styleUrl: './package-place.scss',
})
export class PackagePlace {
  private readonly store = inject(Store);
  protected readonly bundlings = BUNDLINGS;
  protected readonly standardRecipe = STANDARD_RECIPE;
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  protected readonly packages = this.store.selectSignal(selectAllPackages);
  protected readonly recipes = this.store.selectSignal(projectFeature.selectRecipes);
  protected readonly pack = this.store.selectSignal(selectPackage);
  protected readonly sheets = this.store.selectSignal(selectPackageSheets);
  protected readonly outside = this.store.selectSignal(selectSheetsOutside);
  protected readonly sources = this.store.selectSignal(selectPageSources);
  protected readonly output = this.store.selectSignal(selectOutput(today()));
  protected readonly run = this.store.selectSignal(selectLatestRun);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly ownPapers = computed(() => this.facts()?.papers ?? []);
  protected readonly namings = computed(() => this.facts()?.namings ?? []);
  private readonly recipe = computed(
    () => this.recipes().find(({ id }) => id === this.pack()?.recipe) ?? STANDARD_RECIPE,
  );
  /** What the recipe does. */
  protected readonly recipeWords = computed(() => recipeInWords(this.recipe(), this.facts() ?? {}));
  protected readonly dpi = computed(() => this.recipe().pictureDpi);
  protected readonly tilePapers = TILE_PAPERS;
  protected readonly tilePaper = computed(() => {
    const paper = this.pack()?.tiles?.paper;
    return paper && 'name' in paper ? paper.name : '';
  });
  /** What the files of the next run are protected by. */
  protected readonly protect = signal<RunOptions['protect']>(undefined);
  protected readonly picking = signal(false);
  protected readonly naming = signal(false);
  protected readonly running = computed(() => ['waiting', 'running'].includes(this.run()?.state ?? ''));
  protected readonly stopped = computed(() => hasStop(this.output().findings));
  protected readonly promise = computed(() => {
    const { files } = this.output().plan;
    const pages = files.reduce((sum, file) => sum + file.sheets.reduce((all, id) => all + this.pagesOf(id), 0), 0);
    return `Write ${counted(files.length, 'file')}, ${counted(pages, 'page')}`;
  });

  /** How many pages a sheet goes on. */
  private pagesOf(sheetId: string): number {
    const [facts, pack] = [this.facts(), this.pack()];
    const sheet = this.sheets().find(({ id }) => id === sheetId);
    const tiling = pack && facts ? tilingOf(pack, facts) : undefined;
    const paper = sheet && paperOfSheet(sheet, facts);
    return (tiling && paper && tileGrid(paper, tiling)?.tiles.length) ?? 1;
  }

  protected choose(packageId: string): void {
    this.store.dispatch(PackageActions.packageChosen({ packageId }));
  }

  protected make(name: string): void {
    if (name.trim()) this.store.dispatch(PackageActions.packageAskedFor({ name: name.trim() }));
    this.naming.set(false);
  }

  protected edit(change: PackageChange): void {
    const pack = this.pack();
    if (pack) this.store.dispatch(PackageActions.packageEdited({ packageId: pack.id, change }));
  }

  protected move(from: number, to: number): void {
    this.edit({ order: movePage(this.pack()!.order, from, to) });
  }

  protected takeOut(at: number): void {
    this.edit({ order: this.pack()!.order.filter((_, i) => i !== at) });
  }

  protected add(sheetId: string): void {
    this.edit({ order: [...this.pack()!.order, sheetId] });
  }

  protected tile(paper: string): void {
    const choice = { name: paper, orientation: 'landscape' as const };
    this.edit({ tiles: paper ? { paper: choice, overlap: STANDARD_OVERLAP_MM } : null });
  }

  protected takeNames(id: string): void {
    const kept = this.namings().find((rules) => rules.id === id);
    if (kept) this.edit({ names: { file: kept.file, folder: kept.folder, bundle: kept.bundle } });
  }

  protected rename(part: keyof SheetPackage['names'], rule: string): void {
    this.edit({ names: { ...this.pack()!.names, [part]: rule } });
  }

  protected publish(): void {
    this.store.dispatch(
      PackageActions.publishAskedFor({
        packageId: this.pack()!.id,
        ...(this.protect() && { options: { protect: this.protect()! } }),
      }),
    );
  }

  protected cancel(): void {
    this.store.dispatch(PackageActions.cancelAskedFor({ runId: this.run()!.id }));
  }
}
