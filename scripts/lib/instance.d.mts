export interface KeptProcess {
  readonly pid: number | undefined;
  readonly ready: Promise<void>;
  stop(): Promise<void>;
}
export interface Instance {
  readonly ready: Promise<void>;
  readonly server: KeptProcess;
  readonly databaseUrl: string;
  readonly databaseFolder: string | undefined;
  worker(): KeptProcess;
  stop(): Promise<void>;
}
export function startInstance(
  data: string,
  options?: { databaseUrl?: string; settings?: Record<string, string> },
): Promise<Instance>;
