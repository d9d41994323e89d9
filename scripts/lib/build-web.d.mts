export const WEB_FOLDER: string;
export function ensureWebBuild(): Promise<void>;
