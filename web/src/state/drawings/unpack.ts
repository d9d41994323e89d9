import { unzip, type UnzipFileInfo } from 'fflate';
import { MAX_DRAWING_BYTES } from '@folvex/core';

/** What a drop of files comes to. */
export interface Unpacked {
  files: File[];
  leftOut: LeftOut[];
}

/** A file that is not sent, and why. */
export interface LeftOut {
  name: string;
  why: 'not a drawing' | 'too large' | 'not a ZIP archive';
}

const TAKEN = /\.(dxf|svg|pdf|png|jpe?g|tiff?)$/i;
const ARCHIVE = /\.zip$/i;
const MAX_FILES = 2000;
const MAX_BYTES = 2e9;

/**
 * The drawings among dropped files, archives opened. A file that was dropped by itself is always taken, so that it is
 * refused with a reason; in folders and archives, what is not a drawing is left out.
 */
export async function unpacked(dropped: readonly File[]): Promise<Unpacked> {
  const result: Unpacked = { files: [], leftOut: [] };
  for (const file of dropped) {
    if (ARCHIVE.test(file.name)) await unpack(file, result);
    else if (file.webkitRelativePath && !TAKEN.test(file.name))
      result.leftOut.push({ name: file.name, why: 'not a drawing' });
    else result.files.push(file);
  }
  return result;
}

async function unpack(archive: File, result: Unpacked): Promise<void> {
  let [files, bytes] = [0, 0];
  const wanted = ({ name, originalSize }: UnzipFileInfo): boolean => {
    if (name.endsWith('/') || name.includes('__MACOSX/')) return false;
    // The sizes that an archive states are checked before anything is unpacked.
    const fits = originalSize <= MAX_DRAWING_BYTES && files < MAX_FILES && bytes + originalSize <= MAX_BYTES;
    const why = !TAKEN.test(name) ? 'not a drawing' : fits ? undefined : 'too large';
    if (why) {
      result.leftOut.push({ name: `${lastPart(name)} (in ${archive.name})`, why });
      return false;
    }
    files++;
    bytes += originalSize;
    return true;
  };
  try {
    const packed = new Uint8Array(await archive.arrayBuffer());
    const entries = await new Promise<Record<string, Uint8Array>>((resolve, reject) => {
      unzip(packed, { filter: wanted }, (error, found) => (error ? reject(error) : resolve(found)));
    });
    for (const [name, content] of Object.entries(entries)) {
      result.files.push(new File([content as Uint8Array<ArrayBuffer>], lastPart(name)));
    }
  } catch {
    result.leftOut.push({ name: archive.name, why: 'not a ZIP archive' });
  }
}

function lastPart(path: string): string {
  return path.split('/').pop() ?? path;
}
