import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from '@angular/core';
import { hasBeenVisible } from '../../ui/visibility';
import type { PdfFile } from './pdf-file';

/** Room of a picture, CSS pixels. */
const [WIDE, HIGH] = [64, 46];

/** A small picture of a page of a file, painted once it comes into view. */
@Component({
  selector: 'fx-page-thumb',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  styles: `
    :host {
      display: grid;
      place-items: center;
      flex: none;
      width: 64px;
      height: 46px;
    }
    :host ::ng-deep canvas {
      max-width: 100%;
      max-height: 100%;
      background: var(--fx-paper);
      box-shadow: var(--fx-sheet-shadow);
    }
  `,
})
export class PageThumb {
  readonly file = input.required<PdfFile>();
  readonly page = input.required<number>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly seen = hasBeenVisible();

  constructor() {
    effect(() => {
      if (this.seen()) void this.paint(this.file(), this.page());
    });
  }

  private async paint(file: PdfFile, page: number): Promise<void> {
    try {
      const { width, height } = await file.paper(page);
      const wide = Math.min(WIDE, (HIGH * width) / height) * devicePixelRatio;
      const picture = await file.picture(page, wide);
      picture.style.width = `${wide / devicePixelRatio}px`;
      this.host.replaceChildren(picture);
    } catch {
      // The file was closed meanwhile; another one comes in its place.
    }
  }
}
