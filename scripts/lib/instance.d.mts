import type { PostgresServer } from './postgres.mjs';

export interface KeptProcess {
  readonly pid: number | undefined;
  readonly ready: Promise<void>;
  stop(): Promise<void>;
}
export interface Instance {
  readonly ready: Promise<void>;
  readonly address: string;
  readonly server: KeptProcess;
  readonly database: PostgresServer | undefined;
  readonly environment: Record<string, string>;
  worker(): KeptProcess;
  stop(): Promise<void>;
  remove(): Promise<void>;
}
export function startInstance(
  folder: string,
  options?: { databaseUrl?: string; settings?: Record<string, string> },
): Promise<Instance>;
