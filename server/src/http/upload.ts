import busboy from 'busboy';
import type { Request } from 'express';
import { MAX_DRAWING_BYTES, tooLargeSentence } from '@folvex/core';
import type { OfferedFile } from '@folvex/contract';
import type { Store } from '../files/store';
import { Refused } from '../errors';

/** Streams the one file of a form into the store; nothing of it stays when it is too large or the sender goes away. */
export function receiveFile(request: Request, store: Store): Promise<OfferedFile> {
  return new Promise((resolve, reject) => {
    const form = openForm(request);
    let seen = false;
    form.on('file', (_field, stream, info) => {
      seen = true;
      const name = plainName(String(info.filename));
      let target: ReturnType<Store['createFile']>;
      try {
        target = store.createFile();
      } catch (error) {
        stream.resume();
        reject(error as Error);
        return;
      }
      let bytes = 0;
      let over = false;
      const giveUp = (error: Error): void => {
        over = true;
        target.discard();
        request.unpipe(form);
        request.resume();
        reject(error);
      };
      const orGiveUp = (work: () => void): void => {
        try {
          work();
        } catch (error) {
          giveUp(error as Error);
        }
      };
      stream.on('data', (chunk: Buffer) => {
        if (over) return;
        bytes += chunk.length;
        orGiveUp(() => target.file.write(chunk));
      });
      stream.on('limit', () => giveUp(tooLarge(name)));
      stream.on('error', giveUp);
      stream.on('end', () => {
        if (!stream.truncated && !over) orGiveUp(() => resolve({ name, hash: target.keep(), bytes }));
      });
      request.on('aborted', () =>
        giveUp(new Refused(400, 'upload.aborted', `${name} was not sent whole; send it again.`)),
      );
    });
    form.on('error', (error) => reject(error as Error));
    form.on('close', () => {
      if (!seen) reject(new Refused(400, 'upload.none', 'No file was sent; choose a drawing and send it again.'));
    });
    request.pipe(form);
  });
}

function openForm(request: Request): ReturnType<typeof busboy> {
  try {
    return busboy({
      headers: request.headers,
      limits: { files: 1, fileSize: MAX_DRAWING_BYTES },
      defParamCharset: 'utf8',
    });
  } catch {
    throw new Refused(400, 'upload.form', 'A drawing must be sent as a form with one file.');
  }
}

function tooLarge(name: string): Refused {
  return new Refused(413, 'upload.too-large', tooLargeSentence(name), { file: name });
}

/** The last part of a sent name, without anything that could be a path or markup. */
function plainName(name: string): string {
  const last = name.split(/[/\\]/).pop() ?? '';
  return last.replace(/[\u0000-\u001f<>]/g, '').slice(0, 200) || 'drawing.dxf';
}
