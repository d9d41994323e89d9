export function nativeControls(template: string): string[];
