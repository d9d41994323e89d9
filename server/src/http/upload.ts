import busboy from 'busboy';
import type { Request } from 'express';
import { MAX_DRAWING_BYTES, tooLargeSentence } from '@folvex/core';
import type { OfferedFile } from '@folvex/contract';
import type { Store } from '../files/store';
import { Refused } from '../errors';

/**
 * Streams the one file of a form into the store, as fast as the disk takes it; nothing of it stays when it is too large
 * or the sender goes away.
 */
export function receiveFile(request: Request, store: Store, maxBytes = MAX_DRAWING_BYTES): Promise<OfferedFile> {
  return new Promise((resolve, reject) => {
    const form = openForm(request, maxBytes);
    let seen = false;
    form.on('file', (_field, stream, info) => {
      seen = true;
      const name = plainName(String(info.filename));
      request.on('aborted', () => stream.destroy(aborted(name)));
      store
        .receive(stream, () => {
          if (stream.truncated) throw tooLarge(name);
        })
        .then(
          (received) => resolve({ name, ...received }),
          (error: unknown) => {
            // The rest of the request is read and dropped, so that the answer gets through.
            request.unpipe(form);
            stream.resume();
            request.resume();
            reject(error as Error);
          },
        );
    });
    form.on('error', (error) => reject(error as Error));
    form.on('close', () => {
      if (!seen) reject(new Refused(400, 'upload.none', 'No file was sent; choose a drawing and send it again.'));
    });
    request.pipe(form);
  });
}

function aborted(name: string): Refused {
  return new Refused(400, 'upload.aborted', `${name} was only sent in part; send it again.`);
}

function openForm(request: Request, maxBytes: number): ReturnType<typeof busboy> {
  try {
    return busboy({
      headers: request.headers,
      limits: { files: 1, fileSize: maxBytes },
      defParamCharset: 'utf8',
    });
  } catch {
    throw new Refused(400, 'upload.form', 'A drawing must be sent as a form with one file.');
  }
}

function tooLarge(name: string): Refused {
  return new Refused(413, 'upload.too-large', tooLargeSentence(name), { file: name });
}

/**
 * The last part of a sent name, without anything that could be a path or markup. Forms escape quotes and line breaks
 * (HTML Living Standard, multipart/form-data encoding algorithm).
 */
function plainName(name: string): string {
  const unescaped = name.replaceAll('%22', '"').replace(/%0[ad]/gi, ' ');
  const last = unescaped.split(/[/\\]/).pop() ?? '';
  return last.replace(/[\u0000-\u001f<>]/g, '').slice(0, 200) || 'drawing.dxf';
}
