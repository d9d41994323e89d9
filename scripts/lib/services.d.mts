import type { KeptProcess } from './instance.mjs';

export function keepRunning(name: string, environment: Record<string, string>): KeptProcess;
