export function ownFolder(prefix: string): string;
