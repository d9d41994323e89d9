import type {
  Bundling,
  Finding,
  FrameOrder,
  FramePaper,
  PaperChoice,
  Problem,
  ProjectFacts,
  Recipe,
  Sheet,
  SheetPackage,
} from '@folvex/core';

/** What the server tells of a drawing. */
export interface DrawingInfo {
  id: string;
  name: string;
  bytes: number;
  /** Unit stated by a person; overrides the drawing's own. */
  unit: string | null;
  /** As the file states it. */
  ownUnit: string | null;
  format: string;
  entities: number;
  blocks: number;
  layers: { name: string; colour: number; visible: boolean }[];
  layouts: { name: string; paper: { width: number; height: number } | null }[];
  extents: [number, number, number, number] | null;
  warnings: Problem[];
  hasMiniature: boolean;
}

export interface GroupInfo {
  id: string;
  name: string;
}

/** Everything about a project that its screens begin with. */
export interface ProjectInfo {
  id: string;
  project: ProjectFacts;
  groups: GroupInfo[];
  drawings: DrawingInfo[];
  sheets: Sheet[];
  packages: SheetPackage[];
  recipes: Recipe[];
  runs: RunInfo[];
}

export interface ProjectSummary {
  id: string;
  number: string;
  name: string;
}

/** A new sheet from a drawing; what is left out is worked out. */
export interface NewSheet {
  drawing: string;
  number: string;
  title: string;
  group: string;
  paper: PaperChoice;
  scale: string;
}

/** Closed rectangles of a drawing's model on one layer, in reading order. */
export interface FramesInfo {
  layer: string;
  frames: { window: [number, number, number, number]; paper: FramePaper | null }[];
}

/** Sheets to be made from the frames of a layer that fill a named paper. */
export interface NewFrameSheets {
  layer: string;
  order: FrameOrder;
  /** Number of the first; the others count up from it. */
  first: string;
  group: string;
}

/** What of a sheet can be changed in place. */
export type SheetChange = Partial<Pick<Sheet, 'number' | 'title' | 'group'>>;

export interface PackageChange {
  name?: string;
  order?: string[];
  bundling?: Bundling;
  recipe?: string;
  names?: SheetPackage['names'];
}

export type RunState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';

export interface RunSheetInfo {
  sheetId: string;
  number: string;
  title: string;
  state: 'waiting' | 'done' | 'failed';
  milliseconds: number | null;
  problem: Problem | null;
}

export interface RunFileInfo {
  path: string;
  pages: number;
  bytes: number;
  sha256: string;
  sheets: string[];
}

export interface RunInfo {
  id: string;
  packageId: string;
  packageName: string;
  state: RunState;
  createdAt: string;
  finishedAt: string | null;
  sheets: RunSheetInfo[];
  files: RunFileInfo[];
  problem: Problem | null;
}

/** The answer when checks stop a run before it begins. */
export interface StoppedRun {
  findings: Finding[];
}

/** Every refusal of the server has this body. */
export interface Refusal {
  problem: Problem;
}
