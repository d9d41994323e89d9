import { statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { isPaused, scheduledTimes, type JobFile, type SheetPackage } from '@folvex/core';
import { DONE, printProblems, UNREADABLE } from './console';
import { loadJobFile, packageOf } from './job';
import { send, type SendOptions } from './send';

/** How often it checks whether something changed or is due, ms. */
const LOOK_MS = 1000;
const MS_PER_MINUTE = 60_000;

export interface WatchOptions extends SendOptions {
  /** How long nothing may have changed before a package that changed is sent, minutes. */
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
  const read = loadJobFile(jobFile);
  if (!read.ok) {
    printProblems(read.problems);
    return UNREADABLE;
  }
  let { job } = read;
  const found = packageOf(job, options.package);
  if (typeof found === 'string') {
    console.error(found);
    return UNREADABLE;
  }
  let pack = found;
  let ownState = stateOf([jobFile]);
  const stateOfAll = (): string => stateOf([jobFile, ...filesOf(job, dirname(jobFile))]);
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
  const due = new DueTimes(stateOfAll(), Date.now(), timeZone, options.quiet * MS_PER_MINUTE);
  console.log(`Watching ${jobFile}; the package "${pack.id}" is sent ${whenInWords(pack, options.quiet)}.`);
  for (;;) {
    await pause(LOOK_MS);
    const state = stateOf([jobFile]);
    const changed = state === ownState ? undefined : loadJobFile(jobFile);
    // While the job file is being written it cannot be read: what it said before holds, and it is read again.
    if (changed?.ok) {
      ownState = state;
      job = changed.job;
      pack = job.packages.find(({ id }) => id === pack.id) ?? pack;
    }
    if (!due.isDue(pack, stateOfAll(), Date.now())) continue;
    const code = await send(jobFile, { ...options, package: pack.id });
    console.log(`${new Date().toISOString()}  ${code === DONE ? 'sent' : 'not sent, or not all of it'}`);
  }
}

function whenInWords({ publishes }: Schedule, quiet: number): string {
  if (publishes !== undefined && publishes !== 'change') return 'at the times set in it';
  return `after a change, once nothing has changed for ${quiet} ${quiet === 1 ? 'minute' : 'minutes'}`;
}

/** The drawings and typefaces of a job in the folder of its file. */
function filesOf({ drawings, project }: JobFile, folder: string): string[] {
  return [...drawings, ...(project.typefaces ?? [])].map(({ file }) => resolve(folder, file));
}

/** Sizes and times of files: different once one of them was written. */
function stateOf(paths: readonly string[]): string {
  return paths
    .map((path) => statSync(path, { throwIfNoEntry: false }))
    .map((found) => (found ? `${found.size} ${found.mtimeMs}` : 'none'))
    .join(' ');
}
