import type { Option } from '../settings/descriptor';

/** What an inbox does with a file that arrives, in words. */
export const TAKES_OPTIONS = [
  { value: undefined, words: 'asks about every file' },
  { value: 'versions', words: 'takes newer versions' },
  { value: 'everything', words: 'takes everything' },
] as const satisfies readonly Option[];

export type InboxTakes = (typeof TAKES_OPTIONS)[number]['value'];

/** As many as a project may have. */
export const MAX_INBOXES = 20;

/** A folder that is watched: files put into it come into the project. */
export interface Inbox {
  id: string;
  /** Who sends to it, such as a firm; shown with each file that arrives. */
  name: string;
  /** Id of the transfer server that it is on; absent: a folder of the machine that Folvex runs on. */
  server?: string;
  /** Below the folder of the server, or the one that inboxes of this machine are in; absent: that folder itself. */
  folder?: string;
  takes?: InboxTakes;
}

/** Whether an inbox takes a file without asking. `isVersion`: it is a newer version of a drawing in the project. */
export function takesAtOnce({ takes }: Pick<Inbox, 'takes'>, isVersion: boolean): boolean {
  return takes === 'everything' || (takes === 'versions' && isVersion);
}

/**
 * Whether a file is ignored for its name: hidden, a lock or backup file, or one that is still being sent (the endings are
 * common practice).
 */
export function isIgnored(path: string): boolean {
  const name = path.slice(path.lastIndexOf('/') + 1);
  return /^(\.|~\$)|^(thumbs\.db|desktop\.ini)$|(\.(part|partial|filepart|crdownload|tmp|temp|swp|bak|dwl2?)|~)$/i.test(
    name,
  );
}
