import type { FrameKind, Margins } from '../paper/frame';
import type { FrameMark } from '../paper/grid';
import type { Plotter } from '../paper/plotters';
import type { OwnPaper, PaperChoice } from '../paper/sizes';
import type { ColourMode } from '../pens/ink';
import type { PenSchedule } from '../pens/schedule';
import type { Inbox } from '../inbox/inbox';
import type { KeptExchange } from '../settings/exchange';
import type { OwnTypeface } from '../text/own-typefaces';
import type { Note, NoteStyle } from './notes/model';
import type { TitleTemplate } from './title/template';

export interface Revision {
  index: string;
  /** YYYY-MM-DD. */
  date: string;
  text: string;
  /** Who made it; absent: nobody is named. */
  author?: string;
}

/** Which texts, dimensions and leaders of a view are sized for the paper. */
export interface PaperLettering {
  /** The scale that they were drawn for: they have the height on paper that they have at this one. */
  scale: string;
  /** Patterns of the layers they lie on, with `*` and `?`; absent: all. */
  layers?: string[];
}

/** A window of a drawing placed on a sheet at a scale. */
export interface View {
  id: string;
  /** Id of the drawing. */
  drawing: string;
  /** `model`, or the name of a layout. */
  space: string;
  /** Corners in the drawing's unit and coordinates, or all that is visible. */
  window: [xmin: number, ymin: number, xmax: number, ymax: number] | 'extents';
  /**
   * Degrees by which what it shows is turned counter-clockwise on the sheet, about the middle of its window, which stays
   * upright on the paper; absent: none.
   */
  rotation?: number;
  /** As drafters write it, or `fit`: the largest standard scale that fits. */
  scale: string;
  /** Lower left corner on the paper in mm, or centred in the drawing area. */
  at: [x: number, y: number] | 'centre';
  /** Names of layers not shown in this view. */
  layersOff: string[];
  /** Loop of points, in the drawing's unit and coordinates, outside of which nothing shows; absent: its window. */
  outline?: [x: number, y: number][];
  /** True where a line round it is printed. */
  border?: true;
  /** Shown below the view with its scale; none when empty. */
  label: string;
  /** Its number on the sheet, in a ring before its title; marks elsewhere refer to it. */
  number?: string;
  /** Lettering that keeps its height on paper whatever the scale of the view; absent: all of it grows with the scale. */
  lettering?: PaperLettering;
  /** How its colours are printed, before the recipe's mode; absent: as they are. */
  colour?: ColourMode;
  /** Screening: per cent of its inks that are printed; absent: all. */
  screen?: number;
  /** Highest resolution of its pictures on paper, dots per inch, instead of the page's and the recipe's; absent: theirs. */
  pictureDpi?: number;
  /** True where it is not to be moved, turned or rescaled by accident. */
  locked?: true;
  /** The version of the drawing that it keeps; absent: it is live and follows the drawing. */
  held?: number;
}

/** The title block of a sheet: what of it is typed, the rest is derived. */
export interface TitleBlock {
  /** Id of its template; absent: the corner block. */
  template?: string;
  fields: Record<string, string>;
}

export interface Sheet {
  id: string;
  number: string;
  title: string;
  /** Id of the group it belongs to; empty for none. */
  group: string;
  /** Undefined: the smallest A size that holds the views. */
  paper: PaperChoice | undefined;
  frame: FrameKind;
  /** Margins of its own, where its frame runs or views end; absent: those of its kind of frame. */
  margins?: Margins;
  /** Marks around the frame; absent: none. */
  marks?: FrameMark[];
  /** Undefined: no title block. */
  titleBlock: TitleBlock | undefined;
  revision: Revision | undefined;
  /** Values of the sheet fields of the project's own, by name; absent: none. */
  fields?: Record<string, string>;
  /** The revisions before, the oldest first; absent: none. */
  revisions?: Revision[];
  views: View[];
  /** Written and drawn on the sheet itself, above its views; absent: none. */
  notes?: Note[];
  /** A layout of a drawing taken over as it is; paper, views and content are then the layout's own. */
  from?: { drawing: string; layout: string; held?: number };
}

/** The part of a sheet that decides which drawings it shows. */
type Showing = Pick<Sheet, 'views' | 'from' | 'notes'>;

/** Ids of the drawings that a sheet shows. */
export function drawingsShown(sheet: Showing): string[] {
  const ids = [...sheet.views, ...pictured(sheet)].map(({ drawing }) => drawing);
  return [...new Set(sheet.from ? [...ids, sheet.from.drawing] : ids)];
}

function pictured({ notes = [] }: Pick<Sheet, 'notes'>): { drawing: string }[] {
  return notes.flatMap(({ drawing }) => (drawing === undefined ? [] : [{ drawing }]));
}

/** The drawings that a sheet shows, each version it shows of one by itself. */
export function sourcesShown(sheet: Showing): { drawing: string; held?: number }[] {
  const all: { drawing: string; held?: number }[] = [
    ...sheet.views,
    ...pictured(sheet),
    ...(sheet.from ? [sheet.from] : []),
  ];
  const unique = new Map(
    all.map(({ drawing, held }) => [`${drawing} ${held ?? ''}`, { drawing, ...(held && { held }) }]),
  );
  return [...unique.values()];
}

/** Views of a sheet (and the layout it takes over) held at an older version than their drawing's latest. */
export function outOfDate(
  sheet: Pick<Sheet, 'views' | 'from'>,
  latest: (drawing: string) => number | undefined,
): { drawing: string; held: number; latest: number }[] {
  return sourcesShown(sheet).flatMap(({ drawing, held }) => {
    const newest = latest(drawing);
    return held !== undefined && newest !== undefined && held < newest ? [{ drawing, held, latest: newest }] : [];
  });
}

/** A field of a project's sheets beyond those that every sheet has; rules name it `sheet.<name>`. */
export interface SheetField {
  /** Letters, digits and hyphens. */
  name: string;
  caption: string;
  kind: 'text' | 'choice' | 'date';
  /** What a choice offers. */
  choices?: string[];
  /** True where a blank value is a finding. */
  required?: true;
}

/** Naming rules kept under a name. */
export interface KeptNames {
  id: string;
  name: string;
  file: string;
  folder: string;
  bundle: string;
}

/** Somebody in the directory of a project. */
export interface Contact {
  id: string;
  name: string;
  firm?: string;
  /** Email address. */
  mail: string;
  /** The purposes of issues that they are proposed for. */
  purposes?: string[];
  /** The groups, by their names, whose sheets they are sent; absent: all. */
  groups?: string[];
  /** The formats that they are sent, by their ids in `FORMATS`; absent: all. */
  formats?: string[];
}

/** What title blocks and naming rules take from the project, and its own settings. */
export interface ProjectFacts {
  number: string;
  name: string;
  client: string;
  fields: Record<string, string>;
  /** Title-block templates of the office's own. */
  titleBlocks?: TitleTemplate[];
  sheetFields?: SheetField[];
  textStyles?: NoteStyle[];
  /** Plotters of the office's own. */
  plotters?: Plotter[];
  /** Id of the plotter that sheets are made for; absent: none. */
  plotter?: string;
  /** Papers of the office's own. */
  papers?: OwnPaper[];
  /** Typefaces of the office's own. */
  typefaces?: OwnTypeface[];
  /** Pen schedules of the office's own. */
  penSchedules?: PenSchedule[];
  /** Codes of findings that weigh otherwise than usual, or are not looked for; stops always stay stops. */
  checks?: Record<string, 'stop' | 'warning' | 'note' | 'off'>;
  /** Naming rules kept under a name, for packages to take. */
  namings?: KeptNames[];
  /** How DXF files are written for partners, kept under a name, for packages to take. */
  exchanges?: KeptExchange[];
  /** Whom packages are sent to. */
  people?: Contact[];
  /** Folders that are watched for files that arrive. */
  inboxes?: Inbox[];
  /** What comes before the version in file names, such as `_P`; absent: versions have the same file name. */
  versionMark?: string;
}
