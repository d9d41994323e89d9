import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type {
  DrawingChange,
  DrawingInfo,
  EditAnswer,
  EditHistory,
  ManyChange,
  NewFrameSheets,
  NewProject,
  NewSheet,
  OfferAnswer,
  PackageChange,
  ProjectInfo,
  ProjectSummary,
  Received,
  RunInfo,
  RunOptions,
  SettingsChange,
  SheetChange,
} from '@folvex/contract';
import type { Finding, Problem, ProjectSettings, Sheet, SheetPackage } from '@folvex/core';

export const ProjectActions = createActionGroup({
  source: 'Project',
  events: {
    'Application opened': emptyProps(),
    'Reload asked for': emptyProps(),
    'Projects arrived': props<{ projects: ProjectSummary[] }>(),
    'Project chosen': props<{ projectId: string }>(),
    'New project asked for': props<{ project: NewProject }>(),
    'Project arrived': props<{ info: ProjectInfo }>(),
    'Project did not arrive': props<{ problem: Problem }>(),
    'Request refused': props<{ problem: Problem }>(),
    'Notice dismissed': emptyProps(),
  },
});

export const GatherActions = createActionGroup({
  source: 'Gather',
  events: {
    /** `newerOf`: the drawing that the file is meant to be a newer version of. */
    'Files dropped': props<{ files: File[]; newerOf?: string }>(),
    'Files left out': props<{ uploadId: number; names: string[] }>(),
    'Upload began': props<{ uploadId: number; name: string }>(),
    'Upload advanced': props<{ uploadId: number; share: number }>(),
    'File received': props<{ uploadId: number; received: Received }>(),
    'Offer answered': props<{ uploadId: number; as: OfferAnswer['as']; password: string }>(),
    'Drawing refused': props<{ uploadId: number; problem: Problem }>(),
    'Upload dismissed': props<{ uploadId: number }>(),
    /** A person states the unit of a drawing, or its named windows anew. */
    'Drawing stated': props<{ drawingId: string; change: DrawingChange }>(),
    'Drawing changed': props<{ drawing: DrawingInfo }>(),
    'Sheet asked for': props<{ sheet: NewSheet }>(),
    'Sheet made': props<{ sheet: Sheet }>(),
    'Layout sheets asked for': props<{ drawingId: string }>(),
    'Frame sheets asked for': props<{ drawingId: string; wanted: NewFrameSheets }>(),
    'Sheets made': props<{ sheets: Sheet[] }>(),
    'Sheets removed': props<{ ids: string[] }>(),
  },
});

export const SheetActions = createActionGroup({
  source: 'Sheets',
  events: {
    'Sheet edited': props<{ sheetId: string; change: SheetChange }>(),
    'Sheet saved': props<{ sheet: Sheet }>(),
    'Several edited': props<{ change: ManyChange }>(),
    'Several saved': props<{ sheets: Sheet[] }>(),
    'Copy asked for': props<{ sheetId: string }>(),
    'Removal asked for': props<{ ids: string[] }>(),
    /** `kept`: what was typed stays, to be sent again with the next edit. */
    'Sheet edit refused': props<{ sheetId: string; kept: boolean }>(),
    'Sheets put in package': props<{ packageId: string; sheetIds: string[] }>(),
  },
});

export const EditActions = createActionGroup({
  source: 'Edits',
  events: {
    'Step asked for': props<{ way: 'undo' | 'redo' }>(),
    Stepped: props<{ way: 'undo' | 'redo'; step: EditAnswer }>(),
    'History arrived': props<{ history: EditHistory }>(),
    /** Sheets and settings as they are on the server, after an edit was refused. */
    'Sheets shown anew': props<{ info: ProjectInfo }>(),
    /** An edit came to its end, well or not. */
    'Edit ended': emptyProps(),
  },
});

export const SettingsActions = createActionGroup({
  source: 'Settings',
  events: {
    'Settings edited': props<{ change: SettingsChange }>(),
    /** `sent`: the settings as they were shown when they were sent. */
    'Settings saved': props<{ settings: ProjectSettings; sent: ProjectSettings }>(),
  },
});

export const PackageActions = createActionGroup({
  source: 'Package',
  events: {
    'Package chosen': props<{ packageId: string }>(),
    'Package asked for': props<{ name: string; like?: string }>(),
    'Package made': props<{ pack: SheetPackage }>(),
    'Package edited': props<{ packageId: string; change: PackageChange }>(),
    /** `sent`: the package as it was when it was sent. */
    'Package saved': props<{ pack: SheetPackage; sent: SheetPackage }>(),
    /** The package as it is on the server, after an edit of it was refused; null where it is gone. */
    'Package shown anew': props<{ packageId: string; pack: SheetPackage | null }>(),
    /** From here on edits of a package are for its next runs only. */
    'Trial begun': props<{ packageId: string }>(),
    'Trial ended': props<{ packageId: string; keep: boolean }>(),
    'Publish asked for': props<{ packageId: string; options?: RunOptions }>(),
    'Repeat asked for': props<{ runId: string }>(),
    'Run stopped by checks': props<{ findings: Finding[] }>(),
    'Run begun': props<{ run: RunInfo }>(),
    'Run advanced': props<{ run: RunInfo }>(),
    'Cancel asked for': props<{ runId: string }>(),
  },
});
