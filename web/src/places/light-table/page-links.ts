import { ChangeDetectionStrategy, Component, computed, input, output, resource } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { LinkEnd, PageLink } from './page-link';
import type { PdfFile } from './pdf-file';
import { MatTooltip } from '@angular/material/tooltip';

/** The links of a page, laid over it where they are; following one asks for what it leads to. */
@Component({
  selector: 'fx-page-links',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatTooltip],
  template: `
    @for (link of links(); track $index) {
      @if (link.to.kind === 'address') {
        <a
          [href]="link.to.url"
          target="_blank"
          rel="noopener noreferrer"
          [attr.aria-label]="words(link)"
          [matTooltip]="words(link)"
          [style]="placeOf(link)"
        ></a>
      } @else {
        <button
          matButton
          type="button"
          [attr.aria-label]="words(link)"
          [matTooltip]="words(link)"
          [style]="placeOf(link)"
          (click)="followed.emit(link.to)"
        ></button>
      }
    }
  `,
  styles: `
    a,
    button {
      position: absolute;
      min-width: 6px;
      height: auto;
      min-height: 6px;
      padding: 0;
      border: 0;
      border-bottom: 2px dotted var(--fx-on-paper-signal);
      background: none;
      cursor: pointer;

      &:hover,
      &:focus-visible {
        background: color-mix(in srgb, var(--fx-on-paper-signal) 20%, transparent);
      }
    }
  `,
})
export class PageLinks {
  readonly file = input.required<PdfFile>();
  /** Counted from 1. */
  readonly page = input.required<number>();
  readonly followed = output<LinkEnd>();
  private readonly found = resource({
    params: () => ({ file: this.file(), page: this.page() }),
    loader: ({ params: { file, page } }) => file.links(page),
  });
  protected readonly links = computed(() => (this.found.hasValue() ? this.found.value() : []));

  protected placeOf({ left, top, width, height }: PageLink): Record<string, string> {
    const share = (part: number): string => `${part}%`;
    return { left: share(left), top: share(top), width: share(width), height: share(height) };
  }

  protected words({ to }: PageLink): string {
    if (to.kind === 'address') return to.url;
    const label = to.kind === 'page' ? this.file().labels[to.page - 1] : undefined;
    return to.kind === 'page' ? `To ${label ?? `page ${to.page}`}` : `To ${to.path}`;
  }
}
