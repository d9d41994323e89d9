import { readFile } from 'node:fs/promises';
import { isOfficeServer } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import type { Database } from '../../data/database';
import { applyPackage } from '../../data/package-edits';
import { saveTransferServer, secretAbout, type TransferServerRow } from '../../data/transfer-servers';
import type { Sealer } from '../access/secrets';

/** Servers and a package that is sent to them, as they ship with the demo. */
interface Partners {
  servers: (Pick<TransferServerRow, 'id' | 'name' | 'address' | 'user'> & { secret: string })[];
  package: SheetPackage;
}

/** Adds the servers in a file to a project or to the office, which a job file cannot hold, and the package that is sent to them. */
export async function addPartners(db: Database, sealer: Sealer, projectId: string, file: string): Promise<void> {
  const { servers, package: pack } = JSON.parse(await readFile(file, 'utf8')) as Partners;
  for (const { secret, ...server } of servers) {
    const row = { projectId: isOfficeServer(server) ? null : projectId, ...server, sealed: null, fingerprint: null };
    const sealed = secret === '' ? null : sealer.seal(secret, secretAbout(row));
    await saveTransferServer(db, { ...row, sealed });
  }
  await applyPackage(db, projectId, { before: null, after: pack });
}
