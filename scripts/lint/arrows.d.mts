export function forbidden(file: string, source: string): string | undefined;
export function circles(files: readonly string[], root: string, read: (file: string) => string): string[][];
