import type { Sheet } from '../sheet/model';

/** A sheet as an issue has it, to be compared with what it is now. */
export interface IssuedState {
  /** Number of the issue. */
  issue: number;
  /** Index of its revision; empty where it had none. */
  revision: string;
  sheet: Sheet;
  /** SHA-256 of the drawings that the issue showed, by id. */
  contents: Readonly<Record<string, string>>;
}
