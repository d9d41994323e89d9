import { Directive, output, signal } from '@angular/core';

/** Lets files and folders be dropped anywhere on its element; `over` is true while some are held above it. */
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

  protected async drop(event: DragEvent): Promise<void> {
    event.preventDefault();
    this.over.set(false);
    const { items, files } = event.dataTransfer ?? {};
    // Entries must be asked for before anything is waited for: the transfer ends with this event.
    const entries = [...(items ?? [])].map((item) => item.webkitGetAsEntry?.()).filter((entry) => !!entry);
    const plain = [...(files ?? [])];
    const folders = entries.some((entry) => entry.isDirectory);
    const found = folders ? (await Promise.all(entries.map(filesIn))).flat() : plain;
    if (found.length > 0) this.filesDropped.emit(found);
  }
}

/** The files of a dropped entry; those in folders carry their path, as picked folders' do. */
async function filesIn(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    const path = entry.fullPath.replace(/^\//, '');
    if (path.includes('/')) Object.defineProperty(file, 'webkitRelativePath', { value: path });
    return [file];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const inside: FileSystemEntry[] = [];
  // A reader gives at most a hundred at a time, and nothing once it is through.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) break;
    inside.push(...some);
  }
  return (await Promise.all(inside.map(filesIn))).flat();
}
