export function nativeControls(template: string): string[];
export function forbiddenControls(file: string, template: string): string[];
