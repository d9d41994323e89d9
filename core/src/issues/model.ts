/** A sheet as it was handed over. */
export interface IssuedSheet {
  /** Id of the sheet in the project. */
  id: string;
  number: string;
  title: string;
  /** Index of its revision; empty where it had none. */
  revision: string;
}

export interface IssuedFile {
  path: string;
  pages: number;
  bytes: number;
  sha256: string;
}

/** A run that was formally handed over. Nothing of it changes afterwards; another may take its place. */
export interface Issue {
  id: string;
  /** Counted from 1 in its project. */
  number: number;
  /** YYYY-MM-DD. */
  date: string;
  purpose: string;
  recipients: string[];
  remarks: string;
  packageName: string;
  runId: string;
  /** Id of the one that it takes the place of; absent: of none. */
  supersedes?: string;
  sheets: IssuedSheet[];
  files: IssuedFile[];
}
