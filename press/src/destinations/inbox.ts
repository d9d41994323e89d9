import { join } from 'node:path';
import { legalPath, ProblemError, type Inbox } from '@folvex/core';
import { folderDestination } from './kinds/folder';
import { openTransfer } from './kinds/server';
import type { FileSource } from './port';
import type { TransferLogin } from './transfer-login';

/** What is needed to open an inbox. */
export interface InboxContext {
  /** The folder below which inboxes of this machine are. */
  inboxFolder: string;
  /** The transfer server that the inbox is on; undefined where there is none, or it is not set up. */
  login?: TransferLogin | undefined;
}

/** The port to an inbox. Rejects with a `ProblemError` where its transfer server is not set up. */
export async function openInbox({ server, folder }: Inbox, { inboxFolder, login }: InboxContext): Promise<FileSource> {
  const path = folder ? legalPath(folder) : '';
  if (server === undefined) return folderDestination(join(inboxFolder, path));
  const port = login && (await openTransfer(login, path));
  if (port) return port;
  const sentence = 'Its transfer server is not set up; choose one in Settings → Inboxes.';
  throw new ProblemError({ code: 'transfer.absent', sentence, place: {} });
}
