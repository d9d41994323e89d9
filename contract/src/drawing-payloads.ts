import type { BlockFacts, FontId, LayoutFields, LengthUnit, NamedWindow, Problem, UnitJudgement } from '@folvex/core';

/** A drawing as the server lists it. */
export interface DrawingInfo {
  id: string;
  name: string;
  /** SHA-256 of its bytes. */
  hash: string;
  /** Counts up with each newer file that took its place. */
  version: number;
  /** When that one came in. */
  at: string;
  /** The versions before, the latest first. */
  earlier: EarlierVersion[];
  bytes: number;
  /** Unit stated by a person; overrides the drawing's own. */
  unit: string | null;
  /** As the file states it. */
  ownUnit: string | null;
  unitJudgement: UnitJudgement;
  format: string;
  entities: number;
  blocks: number;
  layers: { name: string; colour: number; visible: boolean }[];
  /**
   * `viewports`: the scale of each, paper mm to a unit of the drawing; `fields`: what their title blocks say. Both are
   * absent where an older Folvex read the file.
   */
  layouts: {
    name: string;
    paper: { width: number; height: number } | null;
    viewports?: number[];
    fields?: LayoutFields;
  }[];
  extents: [number, number, number, number] | null;
  warnings: Problem[];
  /** Typefaces its texts ask for, and the shipped ones that stand in for them. */
  fonts: { asked: string; shown: FontId }[];
  /** Other files that it refers to. */
  references: string[];
  /** Blocks with blanks that can become title blocks. */
  titleBlocks: BlockFacts[];
  hasMiniature: boolean;
  /** Windows of its model that were given names. */
  windows: NamedWindow[];
  /** When it was removed; null: it was not. */
  removedAt: string | null;
}

/** What a person sets on a drawing: its unit, or all of its windows. */
export type DrawingChange = { name?: string; unit?: LengthUnit; windows?: NamedWindow[] };

/** A version of a drawing that a newer one took the place of. */
export interface EarlierVersion {
  version: number;
  name: string;
  hash: string;
  bytes: number;
  /** When it came in. */
  at: string;
}

/** How a space of a drawing is looked at: its page is fetched apart. */
export interface SpaceInfo {
  /** False where nothing is visible; there is no page then. */
  visible: boolean;
  /** mm of the page to a unit of the drawing, and what lies in the page's lower left corner. */
  mmPerUnit: number;
  origin: [number, number];
  /** Names of all spaces, the model first. */
  spaces: string[];
  warnings: Problem[];
}

/** A file that the server has received and not recognised yet. */
export interface OfferedFile {
  name: string;
  hash: string;
  bytes: number;
}

/** What became of a file that was sent. */
export type Received =
  | { outcome: 'added'; drawing: DrawingInfo }
  /** A drawing with the very same content is here already. */
  | { outcome: 'known'; drawing: DrawingInfo }
  /** It can become a newer version of a drawing that is here: of the same name, or one named by the sender. */
  | { outcome: 'newer'; drawing: DrawingInfo; offered: OfferedFile }
  /** It is protected by a password. */
  | { outcome: 'locked'; offered: OfferedFile; problem: Problem };

/** What to do with an offered file. */
export interface OfferAnswer {
  offered: OfferedFile;
  /** `version`: of `drawing`; `drawing`: one by itself; `unlock`: open it with `password` and see. */
  as: 'version' | 'drawing' | 'unlock';
  drawing?: string;
  password?: string;
}
