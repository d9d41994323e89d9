import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { fittingScale, formatScale, paperOf, parseScale, viewSizeOnPaper, type Orientation } from '@folvex/core';
import type { DrawingInfo } from '@folvex/contract';
import { projectFeature } from '../../state/project/project.reducer';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { ORIENTATIONS, SCALES, optionsByName } from '../../ui/choices';
import { countOf, papersInWords, realSize } from '../../ui/words';
import { judgeFit } from './scale-fit';
import { choice, choiceOf } from '../../ui/choice-signal';
import { ChoiceField } from '../../forms/choice-field';
import { scaleSchema } from '@folvex/contract';
import { TextField } from '../../forms/text-field';
import { ProjectLinks } from '../../state/project/project-links';

/** Makes a sheet from a drawing: paper and scale, with what they come to said before anything is made. */
@Component({
  selector: 'fx-new-sheet-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatIcon, MatIconButton, RouterLink, TextField],
  templateUrl: './new-sheet-panel.html',
  styleUrl: './new-sheet-panel.scss',
  host: { class: 'fx-side' },
})
export class NewSheetPanel {
  protected readonly to = inject(ProjectLinks).to;
  readonly drawing = input.required<DrawingInfo>();
  /** What of the model it is to show, in the drawing's unit; all that is visible where absent. */
  readonly window = input<[number, number, number, number] | null>(null);
  /** Layers that the sheet is to leave out. */
  readonly layersOff = input<readonly string[]>([]);
  readonly closed = output();

  protected readonly counted = countOf;

  private readonly store = inject(Store);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly groupOptions = computed(() => optionsByName(this.groups()));
  protected readonly windowOptions = computed(() => [
    { value: '', words: 'the whole model' },
    ...this.drawing().windows.map(({ name }) => ({ value: name, words: name })),
  ]);
  protected readonly orientations = ORIENTATIONS;
  protected readonly scaleSchema = scaleSchema();
  protected readonly offered = SCALES;

  protected readonly number = signal('');
  private readonly drawingName = computed(() => this.drawing().name);
  protected readonly title = choice(() => titleFrom(this.drawingName()));
  protected readonly group = choice(() => this.groups()[0]?.id ?? '');
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  /** The settings that the group gives its sheets. */
  private readonly ofGroup = computed(() => this.groups().find(({ id }) => id === this.group())?.sheets ?? {});
  private readonly groupPaper = computed(() => {
    const { paper } = this.ofGroup();
    return paper && 'name' in paper ? paper : ({ name: 'A1', orientation: 'landscape' } as const);
  });
  protected readonly paper = choice((): string => this.groupPaper().name);
  protected readonly orientation = choice((): Orientation => this.groupPaper().orientation);
  private readonly ownPapers = computed(() => this.facts()?.papers ?? []);
  protected readonly paperOptions = computed(() =>
    papersInWords(this.orientation(), this.ownPapers()).map(({ name, words }) => ({ value: name, words })),
  );
  /** Name of the window to show; empty for all of the model. */
  protected readonly shows = signal('');
  private readonly shown = computed(
    () => this.window() ?? this.drawing().windows.find(({ name }) => name === this.shows())?.window ?? null,
  );
  private readonly real = computed(() =>
    realSize({ ...this.drawing(), extents: this.shown() ?? this.drawing().extents }),
  );
  /** A new sheet has a frame with a filing margin and a title block, or those of its group. */
  private readonly room = computed(() => {
    const { frame = 'iso5457', template } = this.ofGroup();
    const made = { frame, titleBlock: { ...(template && { template }), fields: {} } };
    return viewSizeOnPaper(paperOf(this.paper(), this.orientation(), this.ownPapers())!, made, this.facts() ?? {});
  });
  /** The largest standard scale at which all of the drawing fits this paper. */
  protected readonly largest = computed(() => {
    const real = this.real();
    const scale = real && fittingScale(real, this.room());
    return scale === undefined ? undefined : formatScale(scale);
  });
  /** Another drawing, or another window of it, begins at the scale that fits it; another paper leaves what was typed. */
  protected readonly scale = choiceOf(
    () => `${this.drawing().id} ${this.shown()?.join(' ')}`,
    () => untracked(this.largest) ?? '1:100',
  );
  /** Number of the sheet that was asked for last; empty once it is there. */
  private readonly asked = signal('');
  protected readonly made = signal('');
  protected readonly fit = computed(() => judgeFit(this.real(), this.room(), parseScale(this.scale())));
  protected readonly taken = computed(() =>
    this.sheets().some((sheet) => sheet.number.toLowerCase() === this.number().trim().toLowerCase()),
  );
  protected readonly ready = computed(() => this.number().trim() !== '' && !this.taken() && this.fit().placeable);

  constructor() {
    effect(() => {
      const asked = this.asked();
      if (!asked || !this.sheets().some((sheet) => sheet.number === asked)) return;
      this.made.set(asked);
      this.number.set('');
      this.asked.set('');
    });
  }

  protected make(): void {
    const { id } = this.drawing();
    const sheet = {
      drawing: id,
      number: this.number().trim(),
      title: this.title().trim(),
      group: this.group(),
      paper: { name: this.paper(), orientation: this.orientation() },
      scale: this.scale(),
      ...(this.shown() && { window: this.shown()! }),
      ...(this.layersOff().length > 0 && { layersOff: [...this.layersOff()] }),
    };
    this.asked.set(sheet.number);
    this.store.dispatch(SheetActions.sheetAskedFor({ sheet }));
  }
}

/** `ground-floor_v2.dxf` is offered as `Ground floor v2`. */
function titleFrom(file: string): string {
  const words = file
    .replace(/\.[^.]*$/, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
