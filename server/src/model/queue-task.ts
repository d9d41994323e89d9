/** A sheet of a run, or one of its files. */
export interface RunPosition {
  runId: string;
  position: number;
}

export type SheetQueueTask = { kind: 'sheet' } & RunPosition;
export type ProofQueueTask = { kind: 'proof' } & RunPosition;
export interface AssemblyQueueTask {
  kind: 'assemble';
  runId: string;
}

export interface DeliveryQueueTask {
  kind: 'deliver';
  deliveryId: string;
  /** The round of the delivery that this is for: dropped once it is sent again. Absent: 0. */
  renewals?: number;
}

/** A message to a webhook. */
export interface CallQueueTask {
  kind: 'call';
  callId: string;
}

/** An email to one person with the result of a schedule. */
export interface TellQueueTask {
  kind: 'tell';
  projectId: string;
  packageId: string;
  /** That the schedule started; null: none. */
  run: string | null;
  mail: { server: string; from: string; to: string; subject: string; text: string };
  /** How often the mail server could not be reached. */
  attempts: number;
}

/** Work that a worker takes from the queue. */
export type QueueTask =
  SheetQueueTask | ProofQueueTask | AssemblyQueueTask | DeliveryQueueTask | CallQueueTask | TellQueueTask;
