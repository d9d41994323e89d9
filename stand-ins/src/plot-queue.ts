import type { Medium } from '@folvex/core';

/** Paper in a plotter; of a roll how much is left, mm. */
export type Loaded = Medium & { leftMm: number };

/** A job in the queue of a plotter. */
export interface QueuedJob {
  id: number;
  name: string;
  user: string;
  /** Its pieces of paper, mm: all the same. */
  width: number;
  length: number;
  /** How many it has, and how many came out. */
  pieces: number;
  printed: number;
  isGrey: boolean;
  state: 'pending' | 'processing' | 'processing-stopped' | 'completed' | 'canceled' | 'aborted';
  pdf: Buffer;
}

const TOLERANCE_MM = 0.5;

/**
 * The queue of a plotter that prints one job after the other, at a speed that is given, until paper runs out. It has no
 * clock of its own: `run` says how much time passes.
 */
export class PlotQueue {
  readonly jobs: QueuedJob[] = [];
  /** Stopped by somebody at the plotter. */
  isPaused = false;
  /** How much of the piece in work is printed, mm. */
  private at = 0;

  constructor(
    readonly media: Loaded[],
    /** Infinity: at once. */
    private readonly mmPerSecond: number,
  ) {}

  add(job: Omit<QueuedJob, 'id' | 'printed' | 'state'>): QueuedJob {
    const queued: QueuedJob = { ...job, id: this.jobs.length + 1, printed: 0, state: 'pending' };
    this.jobs.push(queued);
    this.run(0);
    return queued;
  }

  /** Cancels a job; false where it is over. */
  cancel(id: number): boolean {
    const job = this.jobs.find((one) => one.id === id);
    if (!job || isOver(job)) return false;
    if (job === this.current()) this.at = 0;
    job.state = 'canceled';
    this.run(0);
    return true;
  }

  /** Puts in a roll or sheets, in place of what was there of the same width. */
  load(medium: Loaded): void {
    const at = this.media.findIndex(({ kind, width }) => kind === medium.kind && width === medium.width);
    this.media.splice(at < 0 ? this.media.length : at, at < 0 ? 0 : 1, medium);
    this.run(0);
  }

  /** What keeps the plotter from printing (RFC 8011, 5.4.12); nothing where it prints or has nothing to print. */
  get reasons(): string[] {
    if (this.isPaused) return ['paused'];
    const job = this.current();
    if (!job || this.paperFor(job)) return [];
    return [this.media.some((one) => this.suits(one, job)) ? 'media-empty-error' : 'media-needed-error'];
  }

  get state(): 'idle' | 'processing' | 'stopped' {
    if (this.reasons.length > 0) return 'stopped';
    return this.current() ? 'processing' : 'idle';
  }

  /** Prints for so many seconds. */
  run(seconds: number): void {
    let leftMm = this.mmPerSecond === Infinity ? Infinity : seconds * this.mmPerSecond;
    for (let job = this.current(); job; job = this.current()) {
      const paper = this.isPaused ? undefined : this.paperFor(job);
      if (!paper) {
        job.state = 'processing-stopped';
        return;
      }
      job.state = 'processing';
      const step = Math.min(leftMm, job.length - this.at);
      this.at += step;
      leftMm -= step;
      if (this.at < job.length) return;
      this.at = 0;
      paper.leftMm -= job.length;
      if (++job.printed === job.pieces) job.state = 'completed';
    }
  }

  private current(): QueuedJob | undefined {
    return this.jobs.find((job) => !isOver(job));
  }

  private paperFor(job: QueuedJob): Loaded | undefined {
    return this.media.find((one) => this.suits(one, job) && one.leftMm >= job.length);
  }

  private suits(medium: Loaded, { width, length }: QueuedJob): boolean {
    if (Math.abs(medium.width - width) > TOLERANCE_MM) return false;
    return medium.kind === 'roll' || Math.abs(medium.height - length) <= TOLERANCE_MM;
  }
}

export function isOver({ state }: Pick<QueuedJob, 'state'>): boolean {
  return state === 'completed' || state === 'canceled' || state === 'aborted';
}
