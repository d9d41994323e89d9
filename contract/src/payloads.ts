import type {
  Bundling,
  ExtraFormat,
  Finding,
  FittedFrame,
  FrameFit,
  FrameMark,
  FrameOrder,
  Group,
  Margins,
  Note,
  PaperChoice,
  Problem,
  ProjectFacts,
  ProjectSettings,
  Proof,
  Recipe,
  Revision,
  Sheet,
  SheetFacts,
  SheetPackage,
  TitleBlock,
  View,
} from '@folvex/core';
import type { DeliveryInfo } from './delivery-payloads';
import type { DrawingInfo } from './drawing-payloads';

export type { DrawingChanges, EntityFacts, Issue, IssuedState, SheetFacts } from '@folvex/core';

/** Everything about a project that its screens begin with. */
export interface ProjectInfo {
  id: string;
  project: ProjectFacts;
  groups: Group[];
  drawings: DrawingInfo[];
  sheets: Sheet[];
  packages: SheetPackage[];
  recipes: Recipe[];
  runs: RunInfo[];
  history: EditHistory;
}

/** What a project uses of the store. */
export interface StorageInfo {
  usedBytes: number;
  /** What it may use; null: as much as there is. */
  maxBytes: number | null;
  /** What should be done before it, or the disk of the store, is full; null: nothing. */
  warning: string | null;
}

export interface ProjectSummary {
  id: string;
  number: string;
  name: string;
  client: string;
  /** How many it has. */
  sheets: number;
  drawings: number;
  packages: number;
  /** Id of the sheet that stands for it in a picture, and its title. */
  cover: { sheet: string; title: string } | null;
  lastRun: { packageName: string; state: RunInfo['state']; at: string } | null;
  /** When it was removed; null: it was not. */
  removedAt: string | null;
}

/** Somebody who has a project open. */
export interface Person {
  /** Id of their browser: several windows of one browser are one person. */
  id: string;
  /** Blank where they gave none. */
  name: string;
  /** Id of the sheet they are viewing; null: another place of the project. */
  sheet: string | null;
}

/** What a browser window reports while it has a project open. */
export interface Presence extends Person {
  /** Id of the window. */
  window: string;
}

/** `RunInfo.startedBy` of a run that a schedule started. */
export const BY_SCHEDULE = 'its schedule';

/** What a window that has a project open is told every few seconds. */
export interface ProjectNews {
  people: Person[];
  /** Ids of the latest runs, the latest first. */
  latestRuns: string[];
  /** When an arrival, or the state of an inbox, last changed; null: there is none. */
  arrivalsChangedAt: string | null;
}

/** A window of a browser that was closed, or left the project. */
export type PresenceEnded = Pick<Presence, 'window'>;

/** Who has which project open, by the id of the project. */
export type EveryPresence = Record<string, Person[]>;

/** How often windows report, seconds. */
export const PRESENT_EVERY_S = 15;
/**
 * How long after its last report a window counts as open, seconds. Browsers let pages in the background act once a
 * minute only (common practice).
 */
export const PRESENT_FOR_S = 100;

/** A new sheet from a drawing; what is left out is worked out. */
export interface NewSheet {
  drawing: string;
  number: string;
  title: string;
  group: string;
  paper: PaperChoice;
  scale: string;
  /** What of the model it shows; all that is visible where left out. */
  window?: [number, number, number, number];
  /** Names of the layers that it leaves out. */
  layersOff?: string[];
}

/** Closed rectangles of a drawing's model on one layer, in reading order. */
export interface FramesInfo {
  layer: string;
  /** `number`: the number in the frame, where frames are ordered by it. */
  frames: (FittedFrame & { number?: string })[];
}

/** Sheets to be created from the frames of a layer. */
export interface NewFrameSheets {
  layer: string;
  order: FrameOrder;
  /** Number of the first; the others count up from it. Ignored where the frames have their numbers inside. */
  first: string;
  group: string;
  fit: FrameFit;
  /** Positions of frames that get no sheet, counted from 0 in their order. */
  skipped: number[];
}

/** The properties of a sheet that a person sets; null: worked out automatically, or absent. */
export interface SheetFields {
  number: string;
  title: string;
  group: string;
  paper: PaperChoice | null;
  frame: Sheet['frame'];
  margins: Margins | null;
  marks: FrameMark[] | null;
  titleBlock: TitleBlock | null;
  revision: Revision | null;
  /** Those before, the oldest first. */
  revisions: Revision[] | null;
  /** Values of the project's own sheet fields. */
  fields: Record<string, string> | null;
  views: View[];
  notes: Note[] | null;
}

/** What of a sheet is to change. */
export type SheetChange = Partial<SheetFields> & {
  /** What the changed fields were when the person saw them: if they are not so any more, nothing is changed. */
  was?: Partial<SheetFields>;
  /** Holds what it shows of a drawing at the latest version, or lets it follow the drawing again. */
  hold?: { drawing: string; held: boolean };
};

/** One change of several sheets at once. Sheets that take a layout over keep its paper, frame and scale. */
export interface ManyChange {
  ids: string[];
  set: {
    group?: string;
    paper?: PaperChoice;
    frame?: Sheet['frame'];
    /** Id of the template of their title blocks, whose typed fields stay; null takes the blocks away. */
    template?: string | null;
    /** Null: those of the frame. */
    margins?: Margins | null;
    /** Null takes the marks away. */
    marks?: FrameMark[] | null;
    /** Values of own sheet fields; those not named stay. */
    fields?: Record<string, string>;
    /** Layers shown or not in all their views of a drawing; those not named stay as they are. */
    layers?: { drawing: string; on: string[]; off: string[] };
    /** Of all their views, whose middles stay where they are. */
    scale?: string;
    revision?: Revision;
  };
}

/** The last edit, and the last one undone, in words; null where there is none. */
export interface EditHistory {
  undo: string | null;
  redo: string | null;
}

/** How sheets come out, by id. */
export interface ComposedSheets {
  facts: Record<string, SheetFacts>;
  /** Why the others cannot be composed. */
  problems: Record<string, Problem>;
}

/** The answer to every edit, undo and redo: what it changed, as it is now, and what can be undone from there. */
export interface EditAnswer {
  words: string;
  /** The sheets that it changed or created. */
  sheets: Sheet[];
  /** Ids of the sheets that it removed. */
  removed: string[];
  /** The settings, where it changed those. */
  settings?: ProjectSettings;
  /** The package that it changed, or the id of one that it removed. */
  pack?: SheetPackage;
  packGone?: string;
  /** How changed sheets came out, by id, as far as they are composed; none of them where an edit changes many sheets. */
  facts: Record<string, SheetFacts>;
  history: EditHistory;
}

/** What of a project's settings is to change; lists come whole. */
export interface SettingsChange {
  project?: Partial<ProjectFacts>;
  groups?: Group[];
  recipes?: Recipe[];
  /** What was changed as the person saw it: if it is not so any more, nothing is changed. */
  was?: { project?: { [K in keyof ProjectFacts]?: ProjectFacts[K] | null }; groups?: Group[]; recipes?: Recipe[] };
}

/** Whether something is removed, or restored. */
export interface Removal {
  removed: boolean;
}

/** Sheets that are meant, by their ids. */
export interface SheetIds {
  ids: string[];
}

/** A project to be created. */
export interface NewProject {
  number: string;
  name: string;
  /** Id of the project whose settings it starts with. */
  like?: string;
}

/** A package to be created. */
export interface NewPackage {
  name: string;
  /** Id of the package that it starts as a copy of. */
  like?: string;
}

export interface PackageChange {
  name?: string;
  order?: string[];
  bundling?: Bundling;
  recipe?: string;
  names?: SheetPackage['names'];
  blanks?: NonNullable<SheetPackage['blanks']>;
  purpose?: string;
  date?: string;
  notes?: string;
  pages?: NonNullable<SheetPackage['pages']>;
  extras?: NonNullable<SheetPackage['extras']>;
  members?: NonNullable<SheetPackage['members']>;
  after?: NonNullable<SheetPackage['after']>;
  stamps?: NonNullable<SheetPackage['stamps']>;
  accepted?: NonNullable<SheetPackage['accepted']>;
  /** Null: by hand only. */
  publishes?: NonNullable<SheetPackage['publishes']> | null;
  publishAt?: string;
  pausedUntil?: string;
  tellTo?: string;
  tellFrom?: string;
  tellServer?: string;
  /** Null: each sheet is one page. */
  tiles?: NonNullable<SheetPackage['tiles']> | null;
  /** Null: PDF only. */
  extraFormats?: NonNullable<SheetPackage['extraFormats']> | null;
  /** Null: they are downloaded. */
  destinations?: NonNullable<SheetPackage['destinations']> | null;
  /** What the changed fields were when the person saw them: if they are not so any more, nothing is changed. */
  was?: Record<string, unknown>;
}

export type RunState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';

export interface RunSheetInfo {
  sheetId: string;
  number: string;
  title: string;
  state: 'waiting' | 'done' | 'failed';
  /** When it was begun, by which worker; null while it waits. */
  startedAt: string | null;
  worker: string | null;
  milliseconds: number | null;
  problem: Problem | null;
  /** Names what was made of it: pages of two runs with the same are the same. Null until then. */
  content: string | null;
}

export interface RunFileInfo {
  path: string;
  /** Null: PDF. */
  format: ExtraFormat | null;
  pages: number;
  bytes: number;
  sha256: string;
  sheets: string[];
  /** When putting it together began, and how long it took. */
  startedAt: string | null;
  milliseconds: number | null;
  /** What reading it again found; null until then. */
  proof: Proof | null;
}

export interface RunInfo {
  id: string;
  packageId: string;
  packageName: string;
  /** What a person called it; null: it goes by the name of its package. */
  name: string | null;
  /** Name of who started it; null where nobody signs in. */
  startedBy: string | null;
  state: RunState;
  createdAt: string;
  finishedAt: string | null;
  sheets: RunSheetInfo[];
  files: RunFileInfo[];
  deliveries: DeliveryInfo[];
  problem: Problem | null;
  /** When it was removed; null: it was not. */
  removedAt: string | null;
}

/** What came of a package's schedule when it was due. */
export interface ScheduleOutcome {
  /** When it was due, and when it was done. */
  due: string;
  at: string;
  /** Id of the run that was started; null: none was. */
  run: string | null;
  /** Why none was. */
  sentence: string | null;
  /** Why it could not be emailed to somebody; absent: nothing went wrong. */
  untold?: string;
}

/** When a package publishes by itself. */
export interface ScheduleInfo {
  /** The next times; none where it does so by hand, or when something changes. */
  next: string[];
  /** Time zone of its time of day (IANA). */
  zone: string;
  /** How long nothing may have changed before it publishes after changes, minutes. */
  quietMinutes: number;
  /** Null: it was not due yet. */
  last: ScheduleOutcome | null;
}

export interface RunChange {
  /** Null: it goes by the name of its package. */
  name: string | null;
}

/** Options of one run. */
export interface RunOptions {
  /** What of its package is otherwise this time, and is not kept. */
  pack?: PackageChange;
  /** Has its files protected. The passwords are not kept. */
  protect?: { open: string; change: string; allow: { print: boolean; change: boolean; copy: boolean } };
}

/** A run to be made an issue. */
export interface NewIssue {
  run: string;
  /** YYYY-MM-DD. */
  date: string;
  purpose: string;
  recipients: string[];
  remarks?: string;
  /** Id of the issue that it takes the place of. */
  supersedes?: string;
}

/** The answer when checks stop a run before it begins. */
export interface StoppedRun {
  findings: Finding[];
}

/** Every refusal of the server has this body. */
export interface Refusal {
  problem: Problem;
}
