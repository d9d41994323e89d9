import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { formatScale, movedTo, parseScale, rescaled, type ColourMode, type View } from '@folvex/core';
import type { DrawingInfo } from '@folvex/contract';
import { SCALES } from '../../../ui/choices';
import type { PlacedBox } from './placed-views';

const MODES: readonly [ColourMode, string][] = [
  ['full', 'as drawn'],
  ['greys', 'greys'],
  ['black', 'all black'],
];
/** Less than this can hardly be seen in print (common practice). */
const MIN_SCREEN = 5;

/** Properties of one view of a sheet: scale, place, turn, label, layers. */
@Component({
  selector: 'fx-view-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './view-panel.html',
  styleUrl: './panel.scss',
})
export class ViewPanel {
  readonly view = input.required<View>();
  readonly placed = input.required<PlacedBox | null>();
  readonly drawing = input.required<DrawingInfo | null>();
  readonly changed = output<View>();
  readonly removed = output();
  /** A person wants to draw its outline on the sheet. */
  readonly outlineAskedFor = output();

  protected readonly offered = SCALES;
  protected readonly modes = MODES;
  protected readonly cameOut = computed(() => {
    const placed = this.placed();
    return placed ? formatScale(placed.scale) : '';
  });
  protected readonly size = computed(() => {
    const box = this.placed()?.box;
    return box ? `${round(box.xmax - box.xmin)} × ${round(box.ymax - box.ymin)} mm` : '';
  });
  protected readonly at = computed(() => {
    const box = this.placed()?.box;
    return box ? { x: round(box.xmin), y: round(box.ymin) } : { x: '', y: '' };
  });
  protected readonly outlineText = computed(() =>
    (this.view().outline ?? []).map(([x, y]) => `${round(x)} ${round(y)}`).join('\n'),
  );
  protected readonly problem = linkedSignal({ source: this.view, computation: () => '' });
  protected readonly shows = computed(() => {
    const { space, window } = this.view();
    const where = space === 'model' ? 'model' : `layout ${space}`;
    return window === 'extents' ? `all of the ${where}` : `a window of the ${where}`;
  });
  protected readonly layers = computed(() => {
    const off = new Set(this.view().layersOff.map((name) => name.toLowerCase()));
    return (this.drawing()?.layers ?? [])
      .filter(({ visible }) => visible)
      .map(({ name }) => ({ name, on: !off.has(name.toLowerCase()) }));
  });

  protected scaleTyped(text: string): void {
    const typed = text.trim();
    const placed = this.placed();
    if (!typed || typed === this.view().scale) return;
    const known = placed && parseScale(typed) !== undefined;
    this.changed.emit(known ? rescaled(this.view(), placed, typed) : { ...this.view(), scale: typed });
  }

  protected placeTyped(axis: 'x' | 'y', text: string): void {
    const value = Number(text.replace(',', '.'));
    const box = this.placed()?.box;
    if (!box || !Number.isFinite(value) || text.trim() === '') return;
    this.changed.emit(movedTo(this.view(), axis === 'x' ? value : box.xmin, axis === 'y' ? value : box.ymin));
  }

  protected turnTyped(text: string): void {
    const degrees = Number(text.replace(',', '.'));
    if (!Number.isFinite(degrees) || Math.abs(degrees) > 360) {
      return this.problem.set('A view is turned by up to 360 degrees either way; it stays as it was.');
    }
    this.set({ rotation: degrees === 0 ? undefined : degrees });
  }

  /** Sets some of it; what is undefined is taken out. */
  protected set(some: Partial<View>): void {
    const view = { ...this.view(), ...some };
    for (const key of Object.keys(some) as (keyof View)[]) if (some[key] === undefined) delete view[key];
    this.changed.emit(view);
  }

  protected coloured(index: number): void {
    const mode = MODES[index]?.[0] ?? 'full';
    this.set({ colour: mode === 'full' ? undefined : mode });
  }

  protected screenTyped(text: string): void {
    const percent = Number(text.replace(',', '.').replace('%', ''));
    if (!(percent >= MIN_SCREEN && percent <= 100)) {
      return this.problem.set(`A view is screened to ${MIN_SCREEN} to 100 %; it stays as it was.`);
    }
    this.set({ screen: percent === 100 ? undefined : percent });
  }

  protected numberTyped(number: string): void {
    if (number.trim() !== (this.view().number ?? '')) this.set({ number: number.trim() || undefined });
  }

  protected letteringTyped(scale: string, patterns: string): void {
    if (scale.trim() === '') return this.set({ lettering: undefined });
    if (parseScale(scale) === undefined) {
      return this.problem.set(`"${scale}" is not a scale; write it like 1:50. It stays as it was.`);
    }
    const layers = patterns
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
    this.set({ lettering: { scale: scale.trim(), ...(layers.length > 0 && { layers }) } });
  }

  protected outlineTyped(text: string): void {
    const points = text
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean)
      .map((line) => line.split(/[;\s]+|,\s*/).map(Number));
    if (points.length >= 3 && points.every((point) => point.length === 2 && point.every(Number.isFinite))) {
      return this.set({ outline: points as [number, number][] });
    }
    this.problem.set('An outline has three points or more, each two numbers such as 1200 3400; it stays as it was.');
  }

  protected labelTyped(label: string): void {
    if (label.trim() !== this.view().label) this.changed.emit({ ...this.view(), label: label.trim() });
  }

  /** Keeps what it shows at a version, or follows the drawing. */
  protected hold(version: number | null): void {
    this.set({ held: version ?? undefined });
  }

  protected centre(): void {
    this.changed.emit({ ...this.view(), at: 'centre' });
  }

  protected toggle(layer: string, on: boolean): void {
    const others = this.view().layersOff.filter((name) => name.toLowerCase() !== layer.toLowerCase());
    this.changed.emit({ ...this.view(), layersOff: on ? others : [...others, layer] });
  }
}

function round(value: number): string {
  return String(Math.round(value * 100) / 100);
}
