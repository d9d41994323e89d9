import { statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { isPaused, scheduledTimes, type SheetPackage } from '@folvex/core';
import { DONE, printProblems, UNREADABLE } from './console';
import { loadJobFile, packageOf } from './job';
import { send, type SendOptions } from './send';

/** How often it is looked whether something changed or is due, ms. */
const LOOK_MS = 1000;
const MS_PER_MINUTE = 60_000;

export interface WatchOptions extends SendOptions {
  /** So long nothing may have changed before a package is sent that changed, minutes. */
  quiet: number;
}

type Schedule = Pick<SheetPackage, 'publishes' | 'publishAt' | 'pausedUntil'>;

/** Decides when a package is due: at the times that it states, or once it changed and then was quiet. */
export class DueTimes {
  private changedAt: number | undefined;
  private seen: string;
  private lookedAt: number;

  /** `state`: what tells that something changed; `now`: ms since 1970; `zone`: of times of day (IANA). */
  constructor(
    state: string,
    now: number,
    private readonly zone: string,
    private readonly quietMs: number,
  ) {
    this.seen = state;
    this.lookedAt = now;
  }

  isDue(pack: Schedule, state: string, now: number): boolean {
    const since = this.lookedAt;
    this.lookedAt = now;
    if (state !== this.seen) {
      this.seen = state;
      this.changedAt = now;
    }
    if (pack.publishes !== undefined && pack.publishes !== 'change') {
      const [next] = scheduledTimes(pack, { after: since, zone: this.zone, count: 1 });
      return next !== undefined && next <= now;
    }
    const isQuiet = this.changedAt !== undefined && now - this.changedAt >= this.quietMs;
    if (!isQuiet || isPaused(pack, now, this.zone)) return false;
    this.changedAt = undefined;
    return true;
  }
}

/** `folvex watch`: sends a package whenever it is due, until the command is stopped; returns the exit code of a bad start. */
export async function watch(jobFile: string, options: WatchOptions): Promise<number> {
  const found = packageIn(jobFile, options.package);
  if (typeof found === 'string') {
    if (found !== '') console.error(found);
    return UNREADABLE;
  }
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
  const due = new DueTimes(stateOf(jobFile), Date.now(), timeZone, options.quiet * MS_PER_MINUTE);
  console.log(`Watching ${jobFile}; the package "${found.id}" is sent ${whenInWords(found, options.quiet)}.`);
  let pack = found;
  for (;;) {
    await new Promise((next) => setTimeout(next, LOOK_MS));
    const state = stateOf(jobFile);
    // While the job file is being written it cannot be read: what it said before holds.
    const now = packageIn(jobFile, options.package, { quietly: true });
    if (typeof now !== 'string') pack = now;
    if (!due.isDue(pack, state, Date.now())) continue;
    const code = await send(jobFile, { ...options, package: pack.id });
    console.log(`${new Date().toISOString()}  ${code === DONE ? 'sent' : 'not sent, or not all of it'}`);
  }
}

/** A package of a job file, or the sentence that says why there is none; empty where that has been printed. */
function packageIn(jobFile: string, id: string | undefined, { quietly = false } = {}): SheetPackage | string {
  const read = loadJobFile(jobFile);
  if (read.ok) return packageOf(read.job, id);
  if (!quietly) printProblems(read.problems);
  return '';
}

function whenInWords({ publishes }: Schedule, quiet: number): string {
  if (publishes !== undefined && publishes !== 'change') return 'at the times that it states';
  return `once something has changed and then nothing for ${quiet} ${quiet === 1 ? 'minute' : 'minutes'}`;
}

/** Sizes and times of the job file, its drawings and its typefaces: different once one of them was written. */
function stateOf(jobFile: string): string {
  const read = loadJobFile(jobFile);
  const named = read.ok ? [...read.job.drawings, ...(read.job.project.typefaces ?? [])].map(({ file }) => file) : [];
  return [jobFile, ...named.map((file) => resolve(dirname(jobFile), file))].map(writtenAt).join(' ');
}

function writtenAt(path: string): string {
  const found = statSync(path, { throwIfNoEntry: false });
  return found ? `${found.size} ${found.mtimeMs}` : 'none';
}
