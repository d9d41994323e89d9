import { createReadStream, type ReadStream } from 'node:fs';
import type { Writable } from 'node:stream';
import { ZipFile } from 'yazl';

/** What is said of a file in an archive. */
interface EntryOptions {
  mtime: Date;
  compress?: boolean;
}

/** rw-r--r-- of an ordinary file, whatever the store has. */
const MODE = 0o100644;

/**
 * An archive that is made while it is written, one file after the other. Where a file cannot be read, what it is written to
 * is destroyed; where that goes away, nothing stays open.
 */
export class Archive {
  private readonly zip = new ZipFile();
  private reading: ReadStream | undefined;
  private isGone = false;

  /** Adds a file, which is fetched and opened once its turn comes. */
  file(fetch: () => Promise<string>, name: string, options: EntryOptions): void {
    this.zip.addReadStreamLazy(name, { ...options, mode: MODE }, (take) => {
      const fail = (error: unknown): boolean => this.zip.emit('error', error);
      const begin = (path: string): void => {
        if (this.isGone) return;
        this.reading = createReadStream(path);
        this.reading.on('error', fail);
        take(null, this.reading);
      };
      if (!this.isGone) fetch().then(begin, fail);
    });
  }

  text(content: string, name: string, { mtime }: EntryOptions): void {
    this.zip.addBuffer(Buffer.from(content), name, { mtime, mode: MODE });
  }

  /** Writes all of it, and then ends `out`. */
  pipe(out: Writable): void {
    const { zip } = this;
    zip.end();
    zip.on('error', (error: Error) => out.destroy(error));
    out.on('close', () => {
      this.isGone = true;
      this.reading?.destroy();
      (zip.outputStream as NodeJS.ReadableStream & { destroy(): void }).destroy();
    });
    zip.outputStream.pipe(out);
  }
}
