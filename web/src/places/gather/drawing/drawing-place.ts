import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { MatIcon } from '@angular/material/icon';
import { Router, RouterLink } from '@angular/router';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { path, ROUTES } from '@folvex/contract';
import type { NamedWindow, Problem } from '@folvex/core';
import type { LayerCount, OpenedDrawing, Picked } from '../../../engine/drawing-protocol';
import { NewSheetPanel } from '../new-sheet-panel';
import { Lookups } from '../../../state/lookups/lookups';
import { DrawingActions } from '../../../state/drawings/drawings.actions';
import { selectDrawingEntities } from '../../../state/drawings/drawings.selectors';
import { shortcutOf } from '../../../ui/shortcuts';
import { countOf } from '../../../ui/words';
import { unitOf } from '../../../state/drawings/unit-of';
import { DRAWING_KEYS } from '../shortcuts';
import { factInWords } from './fact-words';
import { DrawingCanvas, type Overlay } from './drawing-canvas';
import { LayerFilter } from './layer-filter';
import { NamedWindows } from './named-windows';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { ChoiceField } from '../../../forms/choice-field';
import { ProjectLinks } from '../../../state/project/project-links';

type Tool = 'look' | 'measure' | 'window';
type Place = [number, number];

/** A drawing looked at closely: its layers, its entities, its warnings; distances measured, a window made a sheet. */
@Component({
  selector: 'fx-drawing-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    DrawingCanvas,
    LayerFilter,
    MatButton,
    MatButtonToggle,
    MatButtonToggleGroup,
    MatIcon,
    NamedWindows,
    NewSheetPanel,
    RouterLink,
  ],
  templateUrl: './drawing-place.html',
  styleUrl: './drawing-place.scss',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class DrawingPlace {
  protected readonly links = inject(ProjectLinks);
  /** Id of the drawing, from the address. */
  readonly drawing = input.required<string>();
  /** Which of its spaces (1: the first layout; absent: the model), and which entity of that, from the address. */
  readonly spaceStated = input<string>(undefined, { alias: 'space' });
  readonly entityStated = input<string>(undefined, { alias: 'entity' });

  private readonly router = inject(Router);
  private readonly lookups = inject(Lookups);
  private readonly store = inject(Store);
  private readonly drawings = this.store.selectSignal(selectDrawingEntities);
  private readonly canvas = viewChild(DrawingCanvas);
  protected readonly info = computed(() => this.drawings()[this.drawing()] ?? null);
  /** The space that is looked at: 0 is the model. */
  protected readonly space = linkedSignal(() => numberOf(this.spaceStated()) ?? 0);
  /** Only another content is another drawing to look at: a new name of a window is not. */
  private readonly hash = computed(() => this.info()?.hash);
  private readonly facts = this.lookups.of('space', () => ({
    drawing: this.drawing(),
    space: this.space(),
    hash: this.hash(),
  }));
  protected readonly spaceInfo = this.facts.answer;
  protected readonly spaceOptions = computed(() =>
    (this.spaceInfo()?.spaces ?? []).map((name, at) => ({ value: at, words: at === 0 ? 'Model' : name })),
  );
  protected readonly trouble = this.facts.problem;
  /** Another content is another address, so that it is fetched anew. */
  protected readonly url = computed(
    () => `${path(ROUTES.spacePage, { drawing: this.drawing(), space: this.space() })}?of=${this.hash() ?? ''}`,
  );
  protected readonly layers = signal<LayerCount[]>([]);
  protected readonly marks = signal(0);
  protected readonly hidden = signal<number[]>([]);
  protected readonly chosen = signal<Picked | null>(null);
  private readonly entity = this.lookups.of('entity', () => {
    const chosen = this.chosen();
    return chosen ? { drawing: this.drawing(), space: this.space(), index: chosen.tag, hash: this.hash() } : undefined;
  });
  protected readonly described = computed(() => {
    const entity = this.entity.answer();
    if (!entity) return null;
    const unit = this.unit();
    return { ...entity, facts: entity.facts.map(([name, value]) => ({ name, value: factInWords(name, value, unit) })) };
  });
  /** Unit of lengths in the space that is looked at; empty where it is not known. */
  private readonly unit = computed(() => {
    const info = this.info();
    return (this.space() === 0 && info && unitOf(info)) || '';
  });
  protected readonly tool = signal<Tool>('look');
  private readonly from = signal<Place | null>(null);
  private readonly to = signal<Place | null>(null);
  private readonly spot = signal<Place | null>(null);
  protected readonly overlays = computed((): Overlay[] => {
    const [from, to, spot] = [this.from(), this.to(), this.spot()];
    const drawn: Overlay[] = [];
    if (from && to) {
      const kind = this.tool() === 'window' ? 'box' : 'line';
      drawn.push({ kind, from, to, label: kind === 'line' ? this.distance(from, to) : '' });
    }
    if (spot) drawn.push({ kind: 'spot', from: spot, to: spot, label: '' });
    return drawn;
  });
  /** Corners of the drawn window, in the drawing's unit; null while there is none. */
  protected readonly window = signal<[number, number, number, number] | null>(null);
  /** Names of the layers that are hidden. */
  protected readonly hiddenNames = computed(() => this.hidden().map((index) => this.layers()[index]!.name));
  protected readonly counted = countOf;

  protected came(opened: OpenedDrawing): void {
    this.layers.set(opened.ok ? opened.layers : []);
    this.marks.set(opened.ok ? opened.marks : 0);
    this.hidden.set([]);
    this.chosen.set(null);
    this.use('look');
    if (opened.ok) void this.showStated();
  }

  /** Shows the entity that the address names. */
  private async showStated(): Promise<void> {
    const [tag, canvas] = [numberOf(this.entityStated()), this.canvas()];
    const found = tag === undefined ? null : await canvas?.find(tag);
    if (!found || this.chosen()) return;
    this.chosen.set(found);
    this.showChosen();
  }

  /** Chooses an entity; the address follows, so that a link to it can be sent. */
  protected choose(picked: Picked | null): void {
    this.chosen.set(picked);
    this.putInAddress(this.space(), picked?.tag);
  }

  private putInAddress(space: number, entity: number | undefined): void {
    const queryParams = { space: space || null, entity: entity ?? null };
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected onKey(event: KeyboardEvent): void {
    if (shortcutOf(event, DRAWING_KEYS) === 'stop') this.use('look');
  }

  protected use(tool: Tool): void {
    this.tool.set(tool);
    this.from.set(null);
    this.to.set(null);
    this.window.set(null);
  }

  protected goTo(index: number): void {
    this.space.set(index);
    this.spot.set(null);
    this.putInAddress(index, undefined);
  }

  protected placed({ what, at }: { what: 'down' | 'move' | 'up'; at: Place }): void {
    if (what === 'down') {
      // A distance may be pressed twice or dragged; a second press ends the first.
      const ending = this.tool() === 'measure' && this.from() && !this.settled;
      if (!ending) {
        this.from.set(at);
        this.settled = false;
      }
      this.to.set(at);
      this.window.set(null);
    } else if (what === 'move') {
      if (this.from() && !this.settled) this.to.set(at);
    } else this.letGo(at);
  }

  private settled = true;

  private letGo(at: Place): void {
    const from = this.from();
    if (!from || this.settled) return;
    this.to.set(at);
    if (Math.hypot(at[0] - from[0], at[1] - from[1]) === 0) return;
    this.settled = true;
    if (this.tool() !== 'window') return;
    const [a, b] = [this.toDrawing(from), this.toDrawing(at)];
    this.window.set([Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1])]);
  }

  protected showWarning({ place }: Problem): void {
    const spaceInfo = this.spaceInfo();
    if (!place.at || !spaceInfo) return;
    const [x, y] = place.at.map((value, i) => (value - spaceInfo.origin[i]!) * spaceInfo.mmPerUnit) as Place;
    this.spot.set([x, y]);
    const around = (spaceInfo.mmPerUnit * this.span()) / 20;
    this.canvas()?.show([x - around, y - around, x + around, y + around]);
  }

  /** Shows a named window and offers a sheet of it. */
  protected take({ window }: NamedWindow): void {
    this.use('window');
    const spaceInfo = this.spaceInfo();
    if (!spaceInfo) return;
    const [from, to] = [this.toPage(window[0], window[1]), this.toPage(window[2], window[3])];
    this.from.set(from);
    this.to.set(to);
    this.settled = true;
    this.window.set(window);
    this.canvas()?.show([from[0], from[1], to[0], to[1]]);
  }

  /** Offers a sheet of what is seen, without the layers that are hidden. */
  protected takeView(): void {
    const [seen, spaceInfo] = [this.canvas()?.seen(), this.spaceInfo()];
    if (!seen || !spaceInfo) return;
    this.use('window');
    const [from, to]: [Place, Place] = [
      [seen[0], seen[1]],
      [seen[2], seen[3]],
    ];
    this.from.set(from);
    this.to.set(to);
    this.settled = true;
    this.window.set([...this.toDrawing(from), ...this.toDrawing(to)]);
  }

  protected keepWindows(windows: NamedWindow[]): void {
    this.store.dispatch(DrawingActions.drawingStated({ drawingId: this.drawing(), change: { windows } }));
  }

  protected fit(): void {
    this.canvas()?.show();
  }

  protected showChosen(): void {
    const box = this.chosen()?.box;
    if (box) this.canvas()?.show(box);
  }

  private span(): number {
    const [xmin, ymin, xmax, ymax] = this.info()?.extents ?? [0, 0, 1, 1];
    return Math.max(xmax - xmin, ymax - ymin) || 1;
  }

  private toDrawing([x, y]: Place): Place {
    const { mmPerUnit, origin } = this.spaceInfo()!;
    return [x / mmPerUnit + origin[0], y / mmPerUnit + origin[1]];
  }

  private toPage(x: number, y: number): Place {
    const { mmPerUnit, origin } = this.spaceInfo()!;
    return [(x - origin[0]) * mmPerUnit, (y - origin[1]) * mmPerUnit];
  }

  private distance(from: Place, to: Place): string {
    const { mmPerUnit } = this.spaceInfo()!;
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]) / mmPerUnit;
    const unit = this.unit();
    const decimals = Math.max(0, Math.min(6, Math.round(Math.log10(mmPerUnit)) + 2));
    return `${length.toFixed(Math.min(decimals, 3))} ${unit}`.trim();
  }
}

/** A whole number that an address states; undefined where it states none. */
function numberOf(stated: string | undefined): number | undefined {
  return stated !== undefined && /^\d+$/.test(stated) ? Number(stated) : undefined;
}
