import { Directive, output, signal } from '@angular/core';

/** Lets files be dropped anywhere on its element; `over` is true while some are held above it. */
@Directive({
  selector: '[fxDropFiles]',
  exportAs: 'fxDropFiles',
  host: {
    '(dragover)': 'hover($event)',
    '(dragleave)': 'leave($event)',
    '(drop)': 'drop($event)',
  },
})
export class DropFiles {
  readonly filesDropped = output<File[]>({ alias: 'fxDropFiles' });
  readonly over = signal(false);

  protected hover(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.over.set(true);
  }

  protected leave(event: DragEvent): void {
    const to = event.relatedTarget;
    const host = event.currentTarget as Node;
    if (!(to instanceof Node && host.contains(to))) this.over.set(false);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length > 0) this.filesDropped.emit(files);
  }
}
