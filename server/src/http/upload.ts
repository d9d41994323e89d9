import type { Readable } from 'node:stream';
import busboy from 'busboy';
import type { Request } from 'express';
import { MAX_DRAWING_BYTES, tooLargeSentence } from '@folvex/core';
import type { OfferedFile } from '@folvex/contract';
import type { Store } from '../files/store';
import { Refused } from '../errors';

/** How large a file may be, and what is said of a larger one. */
export interface UploadLimit {
  bytes: number;
  sentence(name: string): string;
}

const DRAWING_LIMIT: UploadLimit = { bytes: MAX_DRAWING_BYTES, sentence: tooLargeSentence };

/** Streams a drawing into the store; nothing of it stays when it is too large or the sender goes away. */
export function receiveDrawingFile(request: Request, store: Store): Promise<OfferedFile> {
  return receiveFile(request, DRAWING_LIMIT, (stream, check) => store.receive(stream, check));
}

/**
 * Takes in the one file of a form, as fast as `take` reads it; resolves with its name and what `take` made of it. `take`
 * calls `check` once all of it has come, which throws where it was cut off for its size.
 */
export function receiveFile<T>(
  request: Request,
  limit: UploadLimit,
  take: (stream: Readable, check: () => void) => Promise<T>,
): Promise<T & { name: string }> {
  return new Promise((resolve, reject) => {
    const form = openForm(request, limit.bytes);
    let seen = false;
    form.on('file', (_field, stream, info) => {
      seen = true;
      const name = plainName(String(info.filename));
      request.on('aborted', () => stream.destroy(aborted(name)));
      const check = (): void => {
        if (stream.truncated) throw new Refused(413, 'upload.too-large', limit.sentence(name), { file: name });
      };
      take(stream, check).then(
        (taken) => resolve({ ...taken, name }),
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
      if (!seen) reject(new Refused(400, 'upload.none', 'No file was sent; choose one and send it again.'));
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
    throw new Refused(400, 'upload.form', 'A file must be sent as a form that holds it alone.');
  }
}

/**
 * The last part of a sent name, without anything that could be a path or markup. Forms escape quotes and line breaks
 * (HTML Living Standard, multipart/form-data encoding algorithm).
 */
function plainName(name: string): string {
  const unescaped = name.replaceAll('%22', '"').replace(/%0[ad]/gi, ' ');
  const last = unescaped.split(/[/\\]/).pop() ?? '';
  const plain = last.replace(/[\u0000-\u001f<>]/g, '');
  // What is cut in two by the limit on its length becomes U+FFFD, as it does where it came so.
  return plain.slice(0, 200).toWellFormed() || 'drawing.dxf';
}
