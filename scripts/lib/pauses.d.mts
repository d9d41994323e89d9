export function restartPause(failures: number): number;
export function sleep(milliseconds: number): Promise<void>;
