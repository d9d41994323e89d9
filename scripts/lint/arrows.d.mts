export function forbidden(file: string, source: string): string | undefined;
