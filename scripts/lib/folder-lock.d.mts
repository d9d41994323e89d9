export function lockFolder(folder: string, address?: string): () => void;
