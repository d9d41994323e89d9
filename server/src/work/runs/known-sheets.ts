import type { ComposedFacts } from '@folvex/core';
import type { Database } from '../../data/database';
import { findArtifacts } from '../../data/artifacts';
import type { Store } from '../../files/store';
import type { ExtraFormatFile, SheetFiles } from '../../model/artifacts';
import type { RunInput } from '../../model/run-input';
import { SOURCE_HASHES } from '../../model/sources';
import { extraFormatKeys, knownExtraFormats, type ExtraFormatKey } from './extra-formats';

/** What of a sheet of a run was made before, and under which keys the rest will be kept. */
export interface KnownSheet {
  partKey: string;
  part: string | undefined;
  facts: ComposedFacts | undefined;
  keys: ExtraFormatKey[];
  extraFormats: ExtraFormatFile[];
}

/** Looks up what was made of sheets before, by their input hashes; all of them in a few queries. */
export async function knownSheets(
  deps: { db: Database; store: Store },
  { package: pack, sheets }: Pick<RunInput, 'package' | 'sheets'>,
  inputHashes: ReadonlyMap<number, string>,
): Promise<Map<number, KnownSheet>> {
  const wanted = [...inputHashes].map(([position, inputHash]) => ({
    position,
    partKey: `${SOURCE_HASHES.sheet} ${inputHash}`,
    keys: extraFormatKeys(pack, sheets[position]!.id, inputHash),
  }));
  const parts = await findArtifacts(
    deps.db,
    'part',
    wanted.map(({ partKey }) => partKey),
  );
  const formats = await knownExtraFormats(
    deps,
    wanted.flatMap(({ keys }) => keys.map(({ key }) => key)),
  );
  const known = new Map<number, KnownSheet>();
  for (const { position, partKey, keys } of wanted) {
    const part = parts.get(partKey);
    const extraFormats = keys.flatMap(({ key }) => formats.get(key) ?? []);
    const facts = part?.facts && 'page' in part.facts ? part.facts.page : undefined;
    const stored = part && facts && (await deps.store.has(part.hash)) ? part.hash : undefined;
    known.set(position, { partKey, part: stored, facts, keys, extraFormats });
  }
  return known;
}

/** The files of a sheet of which nothing is missing; undefined where something is. */
export function wholeSheet({ part, facts, keys, extraFormats }: KnownSheet): SheetFiles | undefined {
  if (part === undefined || facts === undefined || extraFormats.length < keys.length) return undefined;
  return { part, facts, extraFormats };
}
