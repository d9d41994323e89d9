import { extraFormatsOf, formatOptions, optionsFor, type ExtraFormat, type SheetPackage } from '@folvex/core';
import { sha256 } from '@folvex/press';
import type { Database } from '../../data/database';
import { findArtifacts } from '../../data/artifacts';
import type { Store } from '../../files/store';
import type { ExtraFormatFile } from '../../model/artifacts';
import { SOURCE_HASHES } from '../../model/sources';

/** Identifies what a file in a format other than PDF is made from. */
export interface ExtraFormatKey {
  format: ExtraFormat;
  key: string;
}

/** The formats that a package writes a sheet in besides PDF; `inputHash` identifies what the sheet is made from. */
export function extraFormatKeys(pack: SheetPackage, sheetId: string, inputHash: string): ExtraFormatKey[] {
  return extraFormatsOf(pack, sheetId).map((format) => ({
    format,
    key: sha256(
      `${SOURCE_HASHES.sheet} ${format} ${JSON.stringify(optionsFor(format, formatOptions(pack)))} ${inputHash}`,
    ),
  }));
}

/** What was made from these keys before and is still in the store. */
export async function knownExtraFormats(
  { db, store }: { db: Database; store: Store },
  keys: readonly string[],
): Promise<Map<string, ExtraFormatFile>> {
  const known = new Map<string, ExtraFormatFile>();
  for (const [key, { hash, facts }] of await findArtifacts(db, 'extra-format', keys)) {
    if (!facts || !('file' in facts)) continue;
    const stored = await Promise.all(
      [hash, ...(facts.file.pictures ?? []).map((one) => one.hash)].map((one) => store.has(one)),
    );
    if (stored.every((has) => has)) known.set(key, facts.file);
  }
  return known;
}
