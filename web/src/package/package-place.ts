import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  compareOrders,
  findingKey,
  hasStop,
  movePage,
  recipeInWords,
  runChecks,
  sortedOrder,
  STANDARD_OVERLAP_MM,
  STANDARD_RECIPE,
  tileGrid,
  tilingOf,
  type Bundling,
  type Finding,
  type Fix,
  type SheetPackage,
} from '@folvex/core';
import type { PackageChange, RunOptions } from '@folvex/contract';
import { PackageActions, SheetActions } from '../state/project.actions';
import { projectFeature } from '../state/project.reducer';
import {
  selectAllPackages,
  selectLatestRun,
  selectOutput,
  selectPackage,
  selectPackageSheets,
  selectPageSources,
  selectSheetEntities,
  selectSheetsOutside,
  selectStripPages,
} from '../state/project.selectors';
import { EmptyState } from '../ui/empty-state';
import { without } from '../ui/without';
import { counted, paperOfSheet, today } from '../ui/words';
import { Composed } from './composed';
import { Findings } from './findings';
import { NameRule } from './name-rule';
import { OutputTree } from './output-tree';
import { PackageRules } from './package-rules';
import { PageOptionsBar } from './page-options';
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
    PackageRules,
    PageOptionsBar,
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
  protected readonly strip = this.store.selectSignal(selectStripPages);
  protected readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly entities = this.store.selectSignal(selectSheetEntities);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly facts$ = inject(Composed);
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
  /** How the sheets came out, as far as that is known. */
  private readonly composed = rxResource({
    params: () => ({
      project: this.project(),
      wanted: this.sheets().map(({ id }) => ({ id, version: this.sources()[id]?.version ?? '' })),
    }),
    stream: ({ params: { project, wanted } }) => this.facts$.of(project, wanted),
    equal: (a, b) => a === b,
  });
  private readonly composedNow = computed(() => (this.composed.hasValue() ? this.composed.value() : undefined));
  protected readonly pictures = computed(() => {
    const [known, sheets] = [this.composedNow(), this.sheets()];
    if (!known || sheets.some(({ id }) => !known.has(id))) return null;
    return sheets.flatMap(({ id }) => known.get(id)!.pictures);
  });
  /** How many sheets are not looked at yet, in words. */
  protected readonly looking = computed(() => {
    const [known, all] = [this.composedNow()?.size ?? 0, this.sheets().length];
    return this.composed.isLoading() && known < all ? counted(all - known, 'more sheet') : '';
  });
  protected readonly findings = computed((): Finding[] => {
    const { input, plan } = this.output();
    const pages = this.composedNow();
    return input ? runChecks({ ...input, ...(pages && { pages }) }, plan) : [];
  });
  protected readonly published = computed(() => this.output().input?.sheets ?? []);
  protected readonly at = signal(0);
  protected readonly page = computed(() => this.strip()[this.at()] ?? this.strip()[0]);
  protected readonly besideId = signal('');
  /** How the order differs from that of another package. */
  protected readonly besideWords = computed(() => {
    const [pack, other] = [this.pack(), this.packages().find(({ id }) => id === this.besideId())];
    if (!pack || !other || other.id === pack.id) return [];
    const named = (ids: string[]): string =>
      ids.map((id) => this.strip().find((page) => page.id === id)?.sheet.number ?? this.numberOf(id)).join(', ');
    const { onlyHere, onlyThere, moved } = compareOrders(
      this.strip().map(({ id }) => id),
      other.order,
    );
    const lines = [
      onlyHere.length ? `Only here: ${named(onlyHere)}.` : '',
      onlyThere.length ? `Only in ${other.name}: ${named(onlyThere)}.` : '',
      moved.length ? `Behind another page than there: ${named(moved)}.` : '',
    ].filter(Boolean);
    return lines.length > 0 ? lines : [`The same pages in the same order as ${other.name}.`];
  });
  protected readonly stopped = computed(() => hasStop(this.findings()));
  protected readonly promise = computed(() => {
    const { files } = this.output().plan;
    const pages = files.reduce((sum, file) => sum + file.sheets.reduce((all, id) => all + this.pagesOf(id), 0), 0);
    return `Write ${counted(files.length, 'file')}, ${counted(pages, 'page')}`;
  });

  /** How many pages a sheet goes on. */
  private pagesOf(sheetId: string): number {
    const [facts, pack] = [this.facts(), this.pack()];
    const sheet = this.published().find(({ id }) => id === sheetId);
    const tiling = pack && facts ? tilingOf(pack, facts) : undefined;
    const paper = sheet && paperOfSheet(sheet, facts);
    return (tiling && paper && tileGrid(paper, tiling)?.tiles.length) ?? 1;
  }

  protected choose(packageId: string): void {
    this.store.dispatch(PackageActions.packageChosen({ packageId }));
  }

  protected make(name: string, like?: string): void {
    if (name.trim()) this.store.dispatch(PackageActions.packageAskedFor({ name: name.trim(), ...(like && { like }) }));
    this.naming.set(false);
  }

  protected edit(change: PackageChange): void {
    const pack = this.pack();
    if (pack) this.store.dispatch(PackageActions.packageEdited({ packageId: pack.id, change }));
  }

  /** Moving a page by hand frees it from the one it was to follow, and places what the rule took in. */
  protected move(from: number, to: number): void {
    const order = this.shownOrder();
    const { after } = this.pack()!;
    this.edit({ order: movePage(order, from, to), ...(after && { after: without(after, order[from]!) }) });
  }

  /** A page that the rule takes in stays, left out. */
  protected takeOut(at: number): void {
    const page = this.strip()[at]!;
    const pack = this.pack()!;
    if (page.byRule) return this.edit({ pages: { ...pack.pages, [page.id]: { ...page.options, skip: true } } });
    const extras = pack.extras?.filter(({ id }) => id !== page.id);
    this.edit({ order: pack.order.filter((id) => id !== page.id), ...(extras && { extras }) });
  }

  protected add(sheetId: string): void {
    this.edit({ order: [...this.pack()!.order, sheetId] });
  }

  /** Puts a page of the package's own before the one that the keyboard is at. */
  protected addExtra(kind: 'divider' | 'index'): void {
    const pack = this.pack()!;
    const extras = pack.extras ?? [];
    const free = (n: number): string => (extras.some(({ id }) => id === `${kind}-${n}`) ? free(n + 1) : `${kind}-${n}`);
    const id = free(1);
    const extra =
      kind === 'index'
        ? { number: '00', title: 'List of sheets' }
        : { number: `D${id.split('-')[1]}`, title: 'Divider' };
    const order = this.shownOrder();
    const at = kind === 'index' ? 0 : this.at();
    this.edit({ extras: [...extras, { id, kind, ...extra }], order: [...order.slice(0, at), id, ...order.slice(at)] });
    this.at.set(at);
  }

  protected sort(): void {
    this.edit({ order: sortedOrder(this.shownOrder(), this.sheets(), this.groups()) });
  }

  private shownOrder(): string[] {
    return this.strip().map(({ id }) => id);
  }

  private numberOf(id: string): string {
    return this.entities()[id]?.number ?? id;
  }

  protected mend(fix: Fix): void {
    if ('package' in fix) return this.edit(fix.package);
    const { sheet, drawing } = fix.follow;
    this.store.dispatch(SheetActions.sheetEdited({ sheetId: sheet, change: { hold: { drawing, held: false } } }));
  }

  /** Remembers why a finding is let be; without a reason it is taken up again. */
  protected accept({ finding, reason }: { finding: Finding; reason: string }): void {
    const key = findingKey(finding);
    const others = (this.pack()!.accepted ?? []).filter((one) => one.finding !== key);
    this.edit({ accepted: reason ? [...others, { finding: key, reason }] : others });
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

  protected again(): void {
    this.store.dispatch(PackageActions.repeatAskedFor({ runId: this.run()!.id }));
  }

  protected cancel(): void {
    this.store.dispatch(PackageActions.cancelAskedFor({ runId: this.run()!.id }));
  }
}
