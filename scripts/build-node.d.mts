export const ROOT: string;
export const DIST: string;
export function ensureNodeBuild(): Promise<void>;
