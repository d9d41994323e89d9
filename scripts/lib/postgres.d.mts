export function startPostgres(folder: string): Promise<{ url: string; data: string; stop(): Promise<void> }>;
export function freePort(): Promise<number>;
