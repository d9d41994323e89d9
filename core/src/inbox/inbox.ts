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

/** A folder that is watched: files that are put there arrive in the project. */
export interface Inbox {
  id: string;
  /** Whom or what it is for, such as a firm: arrivals say it. */
  name: string;
  /** Id of the transfer server that it is on; absent: a folder of the machine that Folvex runs on. */
  server?: string;
  /** Below the folder of the server, or the one that inboxes of this machine are in; absent: that folder itself. */
  folder?: string;
  takes?: InboxTakes;
}

/** Whether an inbox takes a file without asking. `isVersion`: of a drawing that is here. */
export function takesAtOnce({ takes }: Pick<Inbox, 'takes'>, isVersion: boolean): boolean {
  return takes === 'everything' || (takes === 'versions' && isVersion);
}

/**
 * Whether a file is still being written or belongs to a program, by common practice of its name: hidden, a lock file, or
 * with an ending that programs give to what is not complete yet.
 */
export function isPassedOver(path: string): boolean {
  const name = path.slice(path.lastIndexOf('/') + 1);
  return /^(\.|~\$)|^(thumbs\.db|desktop\.ini)$|(\.(part|partial|filepart|crdownload|tmp|temp|swp|bak|dwl2?)|~)$/i.test(
    name,
  );
}
