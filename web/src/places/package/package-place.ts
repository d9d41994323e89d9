import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatDialog } from '@angular/material/dialog';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  BUNDLING_OPTIONS,
  hasStop,
  recipeInWords,
  sortedOrder,
  STANDARD_OVERLAP_MM,
  STANDARD_RECIPE,
  type Finding,
  type Fix,
  type SheetPackage,
} from '@folvex/core';
import type { PackageChange, RunOptions } from '@folvex/contract';
import { IssueActions } from '../../state/issues/issues.actions';
import { issuesFeature } from '../../state/issues/issues.reducer';
import { FindingActions } from '../../state/findings/findings.actions';
import { indexOfFinding, sheetFindings } from '../../state/findings/sheet-findings';
import { NoticeActions, type Notice } from '../../state/notices/notices.actions';
import { PackageActions } from '../../state/packages/packages.actions';
import { packagesFeature } from '../../state/packages/packages.reducer';
import {
  selectAllPackages,
  selectPublishingFacts,
  selectPackage,
  selectPackageSheets,
  selectSheetsOutside,
  selectStripPages,
  type StripPage,
} from '../../state/packages/packages.selectors';
import { selectPageSources } from '../../state/pages/page-sources';
import { projectFeature } from '../../state/project/project.reducer';
import { RunActions } from '../../state/runs/runs.actions';
import { selectAllRuns, selectLatestRun } from '../../state/runs/runs.selectors';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { confirm } from '../../ui/confirm';
import { EmptyState } from '../../ui/empty-state';
import { Planner } from '../../engine/planner';
import { countOf, today } from '../../ui/words';
import { destinationsOf } from './delivery/at-destinations';
import { ComparePackages } from './order/compare-packages';
import { ComposedPages } from '../../state/composed/composed-pages';
import { groupedFindings } from './checks/finding-groups';
import { pagesToCompose } from './checks/pages-to-compose';
import { DestinationsPanel } from './delivery/destinations-panel';
import { SchedulePanel } from './delivery/schedule-panel';
import { runSender } from '../../deliveries/send-run';
import { Findings } from './checks/findings';
import { DxfPanel } from './output/dxf-panel';
import { FormatsPanel } from './output/formats-panel';
import { NamesPanel } from './names/names-panel';
import { OutputTree } from './output/output-tree';
import {
  extraPageAdded,
  findingsAccepted,
  fixesMade,
  pagesMoved,
  pagesRemoved,
  pagesSkipped,
  visibleOrder,
  spaceAdded,
} from './package-edits';
import { ChoiceField } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { askName } from '../../forms/ask-name';
import { PackageRules } from './order/package-rules';
import { PageOptionsBar } from './order/page-options';
import { PageBoard } from './order/page-board';
import type { PagesMove } from './order/page-choice';
import { PageStrip } from './order/page-strip';
import { ProtectPanel } from './delivery/protect-panel';
import { RunProgress } from './run/run-progress';
import { SheetPicker } from './order/sheet-picker';
import { SizeChart } from './output/size-chart';
import { ProjectLinks } from '../../state/project/project-links';

/** Papers that offices print large sheets on in parts (common practice). */
const TILE_PAPERS = ['A4', 'A3', 'A2', 'A (ASME)', 'B (ASME)'];

const UNKNOWN_PACKAGE: Notice = {
  sentence: 'There is no package at this address; it may have been removed. Another package is shown.',
  failed: true,
};

/** A package: its pages in reading order, the files that publishing would write, the checks, and the publishing. */
@Component({
  selector: 'fx-package-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    TextField,
    ComparePackages,
    DestinationsPanel,
    SchedulePanel,
    EmptyState,
    Findings,
    DxfPanel,
    FormatsPanel,
    MatButton,
    MatButtonToggle,
    MatButtonToggleGroup,
    MatIcon,
    MatIconButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    NamesPanel,
    OutputTree,
    PackageRules,
    PageOptionsBar,
    PageBoard,
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
  protected readonly to = inject(ProjectLinks).to;
  /** Id of the package, from the address; the one chosen last without it. */
  readonly package = input<string>();

  private readonly router = inject(Router);
  private readonly store = inject(Store);
  protected readonly bundlings = BUNDLING_OPTIONS;
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  protected readonly packages = this.store.selectSignal(selectAllPackages);
  private readonly recipes = this.store.selectSignal(projectFeature.selectRecipes);
  protected readonly recipeOptions = computed(() =>
    [...this.recipes(), ...(this.recipes().length === 0 ? [STANDARD_RECIPE] : [])].map(({ id, name }) => ({
      value: id,
      words: name,
    })),
  );
  protected readonly recipeId = computed(() => this.pack()?.recipe ?? '');
  protected readonly pack = this.store.selectSignal(selectPackage);
  protected readonly sheets = this.store.selectSignal(selectPackageSheets);
  protected readonly strip = this.store.selectSignal(selectStripPages);
  protected readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  protected readonly outside = this.store.selectSignal(selectSheetsOutside);
  protected readonly sources = this.store.selectSignal(selectPageSources);
  private readonly planner = inject(Planner);
  private readonly planned = this.planner.plan(this.store.selectSignal(selectPublishingFacts(today())));
  /** What a run would write; null until that is known. */
  protected readonly output = computed(() => (this.planned()?.packageId === this.pack()?.id ? this.planned() : null));
  protected readonly run = this.store.selectSignal(selectLatestRun);
  private readonly runs = this.store.selectSignal(selectAllRuns);
  protected readonly send = runSender();
  private readonly dialog = inject(MatDialog);
  private readonly app = inject(ApplicationRef);
  protected readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly ownPapers = computed(() => this.facts()?.papers ?? []);
  protected readonly namings = computed(() => this.facts()?.namings ?? []);
  private readonly recipe = computed(
    () => this.recipes().find(({ id }) => id === this.pack()?.recipe) ?? STANDARD_RECIPE,
  );
  /** What the recipe does. */
  protected readonly recipeWords = computed(() => recipeInWords(this.recipe(), this.facts() ?? {}));
  protected readonly dpi = computed(() => this.recipe().pictureDpi);
  protected readonly tileOptions = [
    { value: '', words: 'one page each' },
    ...TILE_PAPERS.map((name) => ({ value: name, words: `tile on ${name}` })),
  ];
  protected readonly tilePaper = computed(() => {
    const paper = this.pack()?.tiles?.paper;
    return paper && 'name' in paper ? paper.name : '';
  });
  /** What the files of the next run are protected by. */
  protected readonly protect = signal<RunOptions['protect']>(undefined);
  /** How the pages in reading order are shown. */
  protected readonly way = signal<'strip' | 'grid' | 'table'>('strip');
  protected readonly picking = signal(false);
  protected readonly naming = signal(false);
  protected readonly running = computed(() => ['waiting', 'running'].includes(this.run()?.state ?? ''));
  private readonly saved = this.store.selectSignal(packagesFeature.selectSaved);
  /** Pages that the checks look at: sheets, and spaces of drawings once the server knows of them. */
  private readonly wanted = computed(() =>
    pagesToCompose(this.strip(), this.saved()[this.pack()?.id ?? ''], this.sources()),
  );
  /** How they came out, as far as that is known. */
  protected readonly composed = inject(ComposedPages).many(this.wanted);
  protected readonly destinations = destinationsOf({ output: this.output, run: this.run });
  protected readonly pictures = computed(() => {
    const [{ facts }, sheets] = [this.composed(), this.sheets()];
    return sheets.some(({ id }) => !facts.has(id)) ? null : sheets.flatMap(({ id }) => facts.get(id)!.pictures);
  });
  /** How many pages are not looked at yet, in words. */
  protected readonly looking = computed(() => {
    const { missing } = this.composed();
    return missing > 0 ? countOf(missing, 'more page') : '';
  });
  private readonly issuedSheets = this.store.selectSignal(issuesFeature.selectIssued);
  /** Each sheet as it was last issued. */
  private readonly issued = computed(() => {
    const issued = this.issuedSheets();
    return issued ? new Map(issued.map((state) => [state.sheet.id, state])) : undefined;
  });
  private readonly checked = this.planner.check(this.planned, () => ({
    pages: this.composed().facts,
    there: this.destinations.there(),
    plotters: this.destinations.plotters(),
    issued: this.issued(),
    isProtected: this.protect() !== undefined,
  }));
  /** What the checks find; null until that is known. */
  protected readonly findings = computed(() => {
    const checked = this.checked();
    return checked && checked.packageId === this.pack()?.id ? checked.findings : null;
  });
  /** What comes out of the plotters among the destinations. */
  protected readonly plots = computed(() => {
    const checked = this.checked();
    return checked && checked.packageId === this.pack()?.id ? checked.plots : [];
  });
  protected readonly added = computed(() => (this.pack()?.extras ?? []).map(({ id }) => id));
  private readonly trial = this.store.selectSignal(packagesFeature.selectTrial);
  private readonly unsaved = this.store.selectSignal(packagesFeature.selectUnsaved);
  /** True while an edit is to be kept and is not yet. */
  protected readonly saving = computed(() => this.unsaved().includes(this.pack()?.id ?? ''));
  protected readonly trying = computed(() => this.pack() !== null && this.trial() === this.pack()!.id);
  protected readonly at = signal(0);
  protected readonly page = computed(() => this.strip()[this.at()] ?? this.strip()[0]);
  /** True where a finding stops the run, and until it is known whether one does. */
  protected readonly stopped = computed(() => !this.findings() || hasStop(this.findings()!));
  protected readonly promise = computed(() => {
    const output = this.output();
    return output ? `Publish ${countOf(output.files.length, 'file')}, ${countOf(output.pages, 'page')}` : 'Publish';
  });

  constructor() {
    effect(() => {
      if (this.status() === 'ready') this.store.dispatch(IssueActions.issuedSheetsAskedFor());
    });
    // The address decides which package is shown, and is updated when another one replaces it.
    effect(() => {
      const packageId = this.package();
      if (packageId === undefined || this.status() !== 'ready') return;
      // Untracked: a package that was just created is chosen already, while the address still names the one before.
      if (untracked(this.packages).some(({ id }) => id === packageId)) {
        this.store.dispatch(PackageActions.packageChosen({ packageId }));
      } else this.store.dispatch(NoticeActions.noticeShown({ notice: UNKNOWN_PACKAGE }));
    });
    effect(() => {
      const id = this.pack()?.id;
      if (id !== undefined && id !== untracked(this.package)) {
        void this.router.navigate(this.to('packages', id), { replaceUrl: true });
      }
    });
  }

  protected choose(packageId: string): void {
    void this.router.navigate(this.to('packages', packageId));
  }

  protected make(name: string, like?: string): void {
    if (name.trim()) this.store.dispatch(PackageActions.packageAskedFor({ name: name.trim(), ...(like && { like }) }));
    this.naming.set(false);
  }

  protected rename({ name }: SheetPackage): void {
    askName(this.dialog, { title: `Rename ${name}`, name }).subscribe((wanted) => this.edit({ name: wanted }));
  }

  protected remove({ id, name }: SheetPackage): void {
    const runs = this.runs().filter(({ packageId }) => packageId === id).length;
    confirm(this.dialog, {
      title: `Remove ${name}?`,
      lines: [
        `It has ${countOf(this.strip().length, 'page')}. Its sheets stay in the project.`,
        runs > 0 ? `What it published stays: ${countOf(runs, 'run')}.` : 'It was not published yet.',
        'The removal can be undone.',
      ],
      action: 'Remove package',
    }).subscribe((yes) => {
      if (yes) this.store.dispatch(PackageActions.removalAskedFor({ packageId: id }));
    });
  }

  protected edit(change: PackageChange): void {
    const pack = this.pack();
    if (pack) this.store.dispatch(PackageActions.packageEdited({ packageId: pack.id, change }));
  }

  /** Edits pages at positions. The next event, which may come before the next rendering, is to find the new positions. */
  private editOrder(change: PackageChange): void {
    this.edit(change);
    this.app.tick();
  }

  /** Has what follows changed for the next runs only. */
  protected try(): void {
    this.store.dispatch(PackageActions.trialBegun({ packageId: this.pack()!.id }));
  }

  protected endTrial(keep: boolean): void {
    this.store.dispatch(PackageActions.trialEnded({ packageId: this.pack()!.id, keep }));
  }

  protected move({ positions, to }: PagesMove): void {
    this.editOrder(pagesMoved(this.pack()!, this.strip(), positions, to));
  }

  protected removePages(positions: ReadonlySet<number>): void {
    this.editOrder(pagesRemoved(this.pack()!, this.pagesAt(positions)));
  }

  protected skipPages({ positions, skip }: { positions: ReadonlySet<number>; skip: boolean }): void {
    this.editOrder(pagesSkipped(this.pack()!, this.pagesAt(positions), skip));
  }

  private pagesAt(positions: ReadonlySet<number>): StripPage[] {
    return this.strip().filter((_, at) => positions.has(at));
  }

  protected add(ids: readonly string[]): void {
    this.edit({ order: [...this.pack()!.order, ...ids] });
  }

  protected addSpace(space: { drawing: string; name: string; space: string }): void {
    this.edit(spaceAdded(this.pack()!, this.strip(), space));
  }

  protected addExtra(kind: 'divider' | 'index'): void {
    const { change, at } = extraPageAdded(this.pack()!, this.strip(), kind, this.at());
    this.edit(change);
    this.at.set(at);
  }

  protected sort(): void {
    this.edit({ order: sortedOrder(visibleOrder(this.strip()), this.sheets(), this.groups()) });
  }

  protected fix(fixes: readonly Fix[]): void {
    const change = fixesMade(this.pack()!, fixes);
    if (change) this.edit(change);
    for (const fix of fixes) {
      if (!('follow' in fix)) continue;
      const { sheet, drawing } = fix.follow;
      this.store.dispatch(SheetActions.sheetEdited({ sheetId: sheet, change: { hold: { drawing, held: false } } }));
    }
  }

  /** Opens the sheet of a finding, from which the next findings can be opened in turn. */
  protected follow(finding: Finding): void {
    const listed = groupedFindings(this.findings() ?? []).flatMap((group) => group.findings);
    const findings = sheetFindings(listed, this.added());
    const at = indexOfFinding(findings, finding);
    this.store.dispatch(FindingActions.findingOpened({ packageId: this.pack()!.id, findings, at }));
  }

  protected accept({ findings, reason }: { findings: readonly Finding[]; reason: string }): void {
    this.edit(findingsAccepted(this.pack()!, findings, reason));
  }

  protected tile(paper: string): void {
    const choice = { name: paper, orientation: 'landscape' as const };
    this.edit({ tiles: paper ? { paper: choice, overlap: STANDARD_OVERLAP_MM } : null });
  }

  protected publish(): void {
    // The button keeps its focus while it is disabled, and so its clicks.
    if (this.stopped() || this.running()) return;
    this.store.dispatch(
      RunActions.publishAskedFor({
        packageId: this.pack()!.id,
        ...(this.protect() && { options: { protect: this.protect()! } }),
      }),
    );
  }

  protected again(): void {
    this.store.dispatch(RunActions.repeatAskedFor({ runId: this.run()!.id }));
  }

  protected cancel(): void {
    this.store.dispatch(RunActions.cancelAskedFor({ runId: this.run()!.id }));
  }
}
