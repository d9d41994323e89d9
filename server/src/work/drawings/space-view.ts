import type { SpaceInfo } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import { sha256, type Press } from '@folvex/press';
import type { Database } from '../../data/database';
import type { DrawingRow } from '../../data/drawings';
import { settingsOf } from '../../data/settings';
import { typefaceFiles } from '../projects/typeface-files';
import { findArtifact, saveArtifacts } from '../../data/artifacts';
import type { Store } from '../../files/store';
import { SOURCE_HASHES } from '../../model/sources';

/** Where the store has what a space of a drawing is looked at by. */
export interface SpaceView {
  /** Hash of a `SpaceInfo` as JSON. */
  info: string;
  /** Hash of the packed page; empty where nothing is visible. */
  page: string;
}

/** Makes what a space of a drawing is looked at by, or takes it from the store. */
export async function spaceView(
  { db, store, press }: { db: Database; store: Store; press: Press },
  row: Pick<DrawingRow, 'name' | 'hash' | 'projectId'>,
  space: number,
): Promise<SpaceView> {
  const settings = await settingsOf(db, row.projectId);
  const typefaces = settings ? await typefaceFiles(store, settings.project) : [];
  const lettering = typefaces.map(({ hash, asked }) => [hash, asked]);
  const key = `${SOURCE_HASHES.space} ${row.hash} ${space}${lettering.length > 0 ? ` ${sha256(JSON.stringify(lettering))}` : ''}`;
  const [info, page] = [await findArtifact(db, 'space', key), await findArtifact(db, 'space-page', key)];
  if (info && page !== undefined) return { info, page };
  const found = await press.view({
    file: { name: row.name, hash: row.hash, path: await store.localFile(row.hash) },
    space,
    typefaces,
  });
  if (!found.ok) throw new ProblemError(found.problem);
  const { page: bytes, ...facts } = found.value;
  const spaceInfo: SpaceInfo = { ...facts, visible: bytes !== null };
  const made = {
    info: await store.put(Buffer.from(JSON.stringify(spaceInfo))),
    page: bytes ? await store.put(bytes) : '',
  };
  await saveArtifacts(db, [
    { kind: 'space', key, hash: made.info },
    { kind: 'space-page', key, hash: made.page },
  ]);
  return made;
}
