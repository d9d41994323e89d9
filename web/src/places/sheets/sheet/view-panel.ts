import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import {
  bytesInWords,
  estimateBytes,
  formatScale,
  movedTo,
  PICTURE_DPI,
  rescaled,
  scaleProblem,
  type ColourMode,
  type PictureFacts,
  type View,
} from '@folvex/core';
import type { DrawingInfo } from '@folvex/contract';
import * as yup from 'yup';
import { scaleSchema } from '@folvex/contract';
import { ChoiceField } from '../../../forms/choice-field';
import { NumberField } from '../../../forms/number-field';
import { TextField } from '../../../forms/text-field';
import { SCALES } from '../../../ui/choices';

import type { PlacedBox } from './placed-views';

const MODES: readonly { value: ColourMode; words: string }[] = [
  { value: 'full', words: 'as drawn' },
  { value: 'greys', words: 'greys' },
  { value: 'black', words: 'all black' },
];
/** Farther from the paper's corner, mm, nothing is on any sheet. */
const MAX_POSITION_MM = 20_000;
/** Less than this can hardly be seen in print (common practice). */
const MIN_SCREEN = 5;

const outlineSchema = yup
  .string()
  .test('outline', 'An outline has three points or more, each two numbers such as 1200 3400.', (text = '') => {
    const points = pointsOf(text);
    return points.length >= 3 && points.every((point) => point.length === 2 && point.every(Number.isFinite));
  });

/** Properties of one view of a sheet: scale, place, turn, label, layers. */
@Component({
  selector: 'fx-view-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatCheckbox, NumberField, TextField],
  templateUrl: './view-panel.html',
  styleUrl: './panel.scss',
})
export class ViewPanel {
  readonly view = input.required<View>();
  readonly placed = input.required<PlacedBox | null>();
  readonly drawing = input.required<DrawingInfo | null>();
  /** Pictures of the whole sheet; absent while it is composed. */
  readonly pictures = input<readonly PictureFacts[]>();
  readonly changed = output<View>();
  readonly removed = output();
  /** A person wants to draw its outline on the sheet. */
  readonly outlineAskedFor = output();

  protected readonly scales = SCALES;
  protected readonly scaleOffers = [...SCALES, 'fit'];
  protected readonly modes = MODES;
  protected readonly dpi = PICTURE_DPI;
  protected readonly hasPictures = computed(
    () => this.view().pictureDpi !== undefined || (this.pictures()?.length ?? 0) > 0,
  );
  /** What the resolution of its pictures costs. */
  protected readonly pictureSize = computed(() => {
    const pictures = this.pictures();
    if (!pictures) return 'Composing the sheet …';
    const bytes = bytesInWords(Math.round(estimateBytes(pictures, Infinity)));
    return `About ${bytes} of pictures on this sheet, unless a recipe lowers their resolution.`;
  });
  protected readonly minScreen = MIN_SCREEN;
  protected readonly maxPosition = MAX_POSITION_MM;
  protected readonly scaleSchema = scaleSchema('fit');
  protected readonly letteringSchema = scaleSchema('');
  protected readonly outlineSchema = outlineSchema;
  protected readonly letteringLayers = computed(() => this.view().lettering?.layers?.join(', ') ?? '');
  protected readonly fittedScale = computed(() => {
    const placed = this.placed();
    return placed ? formatScale(placed.scale) : '';
  });
  protected readonly size = computed(() => {
    const box = this.placed()?.box;
    return box ? `${round(box.xmax - box.xmin)} × ${round(box.ymax - box.ymin)} mm` : '';
  });
  protected readonly at = computed(() => {
    const box = this.placed()?.box;
    return box ? { x: round(box.xmin), y: round(box.ymin) } : { x: undefined, y: undefined };
  });
  protected readonly outlineText = computed(() =>
    (this.view().outline ?? []).map(([x, y]) => `${round(x)} ${round(y)}`).join('\n'),
  );
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

  protected rescale(text: string): void {
    const scale = text.trim();
    const placed = this.placed();
    const known = placed && scaleProblem(scale) === undefined;
    this.changed.emit(known ? rescaled(this.view(), placed, scale) : { ...this.view(), scale });
  }

  protected moveTo(axis: 'x' | 'y', mm: number | undefined): void {
    const box = this.placed()?.box;
    if (!box || mm === undefined) return;
    this.changed.emit(movedTo(this.view(), axis === 'x' ? mm : box.xmin, axis === 'y' ? mm : box.ymin));
  }

  /** Sets some of it; what is undefined is taken out. */
  protected set(some: Partial<View>): void {
    const view = { ...this.view(), ...some };
    for (const key of Object.keys(some) as (keyof View)[]) if (some[key] === undefined) delete view[key];
    this.changed.emit(view);
  }

  protected setLettering(scale: string, patterns: string): void {
    if (scale.trim() === '') return this.set({ lettering: undefined });
    const layers = patterns
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
    this.set({ lettering: { scale: scale.trim(), ...(layers.length > 0 && { layers }) } });
  }

  protected setOutline(text: string): void {
    this.set({ outline: pointsOf(text) as [number, number][] });
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

/** Points as they are typed, one a line. */
function pointsOf(text: string): number[][] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => line.split(/[;\s]+|,\s*/).map(Number));
}

function round(value: number): number {
  return Math.round(value * 100) / 100;
}
