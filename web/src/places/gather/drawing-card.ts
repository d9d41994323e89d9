import { ChangeDetectionStrategy, Component, computed, input, output, signal, inject } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { bytesInWords, LENGTH_UNITS, ownTypefaceFor, type LengthUnit } from '@folvex/core';
import type { DrawingInfo } from '@folvex/contract';
import { miniatureOf } from '../../ui/miniature';
import { PagePicture } from '../../ui/page-picture';
import { countOf, fontInWords, realSize, sizeInWords, sizesInWords } from '../../ui/words';
import { unitOf } from '../../state/drawings/unit-of';
import { projectFeature } from '../../state/project/project.reducer';
import { ProjectLinks } from '../../state/project/project-links';
import { titleBlockInWords } from './title-block-words';

const PICTURE = { width: 300, height: 150 };

type Part = 'layers' | 'layouts' | 'fonts' | 'references' | 'warnings';

/** One drawing: a miniature of its model and what was found in it. */
@Component({
  selector: 'fx-drawing-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatMenu, MatMenuItem, MatMenuTrigger, PagePicture, RouterLink],
  templateUrl: './drawing-card.html',
  styleUrl: './drawing-card.scss',
  host: { '[class.chosen]': 'chosen()' },
})
export class DrawingCard {
  protected readonly to = inject(ProjectLinks).to;
  private readonly facts = inject(Store).selectSignal(projectFeature.selectFacts);
  readonly drawing = input.required<DrawingInfo>();
  /** How many sheets show it. */
  readonly uses = input.required<number>();
  readonly chosen = input(false);
  readonly unitStated = output<LengthUnit>();
  /** Layouts that are sheets already. */
  readonly layoutsTaken = input<readonly string[]>([]);
  /** True while its layouts are being made into sheets. */
  readonly takingLayouts = input(false);
  /** True while its comments are being merged into its pages. */
  readonly mergingComments = input(false);
  readonly sheetWanted = output();
  readonly layoutsWanted = output();
  readonly framesWanted = output();
  readonly changesWanted = output();
  readonly renameWanted = output();
  /** Its comments are to be merged into its pages. */
  readonly mergeWanted = output();
  readonly removalWanted = output();
  /** A file that is to take the drawing's place. */
  readonly newerPicked = output<File>();
  /** Names (lower case) of all files of the project, to tell which referred ones are missing. */
  readonly present = input<ReadonlySet<string>>(new Set());

  protected readonly units = LENGTH_UNITS;
  protected readonly open = signal<Part | null>(null);
  protected readonly unit = computed(() => unitOf(this.drawing()));
  /** How the unit is known, where nobody stated it here. */
  protected readonly judged = computed(() => {
    const { unit, unitJudgement } = this.drawing();
    if (unit) return 'stated here';
    return unitJudgement.sure === 'stated' ? 'stated in the file' : '';
  });
  /** Shown next to a unit that is asked for. */
  protected readonly doubt = computed(() => {
    const { unitJudgement, unit, ownUnit } = this.drawing();
    if (unit || unitJudgement.sure === 'stated') return '';
    const likely = unitJudgement.likely ? `, probably ${unitJudgement.likely}` : '';
    if (unitJudgement.sure === 'unknown') return `not stated${likely}:`;
    const system = ownUnit === 'in' || ownUnit === 'ft' ? 'metric' : 'imperial';
    return `${ownUnit} by the file, which is set up ${system}${likely}:`;
  });
  protected readonly size = computed(() => {
    const real = realSize(this.drawing());
    return real && sizeInWords(real);
  });
  protected readonly bytes = computed(() => bytesInWords(this.drawing().bytes));
  /** What it would need at the scales that plans are mostly drawn at. */
  protected readonly needs = computed(() => {
    const real = realSize(this.drawing());
    const at = (n: number): string => `${Math.ceil(real!.width / n)} × ${Math.ceil(real!.height / n)} mm at 1:${n}`;
    return real && Math.max(real.width, real.height) > 2000 ? `${at(50)}, ${at(100)}` : '';
  });
  protected readonly layouts = computed(() =>
    this.drawing().layouts.map(({ name, paper, fields }) => ({
      name,
      paper: paper ? sizesInWords(paper) : 'no paper stated',
      titleBlock: titleBlockInWords(fields ?? {}),
    })),
  );
  protected readonly references = computed(() =>
    this.drawing().references.map((name) => ({ name, missing: !this.present().has(name.toLowerCase()) })),
  );
  protected readonly fonts = computed(() =>
    this.drawing().fonts.map(({ asked, shown }) => {
      const own = ownTypefaceFor(this.facts()?.typefaces, asked);
      return { asked, shown: own ? own.name : `the shipped ${fontInWords(shown)}` };
    }),
  );
  protected readonly missing = computed(() => this.references().filter(({ missing }) => missing).length);
  /** Layouts with a paper that could become sheets. */
  protected readonly layoutsLeft = computed(
    () => this.drawing().layouts.filter(({ name, paper }) => paper && !this.layoutsTaken().includes(name)).length,
  );
  protected readonly warnings = computed(() =>
    this.drawing().warnings.reduce((sum, warning) => sum + (warning.count ?? 1), 0),
  );
  protected readonly hasComments = computed(() =>
    this.drawing().warnings.some(({ code }) => code === 'pdf.annotations'),
  );
  protected readonly shape = computed(() => {
    const [xmin, ymin, xmax, ymax] = this.drawing().extents ?? [0, 0, 1, 1];
    const aspect = (xmax - xmin) / (ymax - ymin || 1);
    const width = Math.max(20, Math.min(PICTURE.width, PICTURE.height * aspect));
    return { width, height: Math.min(PICTURE.height, width / aspect) };
  });
  protected readonly source = computed(() => miniatureOf(this.drawing()));
  protected readonly counted = countOf;

  protected toggle(part: Part): void {
    this.open.update((open) => (open === part ? null : part));
  }

  protected picked(input: HTMLInputElement): void {
    const file = input.files?.[0];
    if (file) this.newerPicked.emit(file);
    input.value = '';
  }
}
