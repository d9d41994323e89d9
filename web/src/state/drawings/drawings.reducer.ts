import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import type { DrawingInfo, OfferedFile, Received } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { NoticeActions } from '../notices/notices.actions';
import { ProjectActions } from '../project/project.actions';
import { SheetActions } from '../sheets/sheets.actions';
import { DrawingActions } from './drawings.actions';
import type { LeftOut } from './unpack';

/** A file on its way to the server, or one that needs a message or a decision. */
export interface Upload {
  id: number;
  name: string;
  /** Part sent, 0…1. */
  share: number;
  /**
   * `moving`: on its way. `newer`: can become a version of `drawing`. `known`: is `drawing`. `locked`: needs a password.
   * `refused`: cannot be read. `left out`: what was not sent at all.
   */
  state: 'moving' | 'newer' | 'known' | 'locked' | 'refused' | 'left out';
  drawing: string | null;
  offered: OfferedFile | null;
  problem: Problem | null;
}

export const drawingsAdapter = createEntityAdapter<DrawingInfo>();
export const uploadsAdapter = createEntityAdapter<Upload>();

export interface DrawingsState {
  drawings: EntityState<DrawingInfo>;
  uploads: EntityState<Upload>;
  /** The drawing whose layouts are being made into sheets. */
  takingLayouts: string | null;
  /** The drawing whose comments are being merged into its pages. */
  mergingComments: string | null;
}

const NEW_UPLOAD = { share: 0, state: 'moving' as const, drawing: null, offered: null, problem: null };

const initial: DrawingsState = {
  drawings: drawingsAdapter.getInitialState(),
  uploads: uploadsAdapter.getInitialState(),
  takingLayouts: null,
  mergingComments: null,
};

/** The drawings of the project, and files on their way to become some. */
export const drawingsFeature = createFeature({
  name: 'drawings',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(ProjectActions.projectArrived, (state, { info }) => ({
      ...state,
      drawings: drawingsAdapter.setAll(info.drawings, state.drawings),
    })),
    on(DrawingActions.uploadBegan, (state, { uploadId, name }) => ({
      ...state,
      uploads: uploadsAdapter.addOne({ ...NEW_UPLOAD, id: uploadId, name }, state.uploads),
    })),
    on(DrawingActions.filesLeftOut, (state, { uploadId, files }) => ({
      ...state,
      uploads: uploadsAdapter.addOne(
        { ...NEW_UPLOAD, id: uploadId, name: leftOutInWords(files), state: 'left out' },
        state.uploads,
      ),
    })),
    on(DrawingActions.uploadAdvanced, (state, { uploadId, share }) => ({
      ...state,
      uploads: uploadsAdapter.updateOne({ id: uploadId, changes: { share } }, state.uploads),
    })),
    on(DrawingActions.fileReceived, (state, { uploadId, received }) => ({
      ...state,
      uploads:
        received.outcome === 'added'
          ? uploadsAdapter.removeOne(uploadId, state.uploads)
          : uploadsAdapter.updateOne({ id: uploadId, changes: afterReceiving(received) }, state.uploads),
      drawings: 'drawing' in received ? drawingsAdapter.setOne(received.drawing, state.drawings) : state.drawings,
    })),
    on(DrawingActions.offerAnswered, (state, { uploadId }) => ({
      ...state,
      uploads: uploadsAdapter.updateOne({ id: uploadId, changes: { state: 'moving', share: 1 } }, state.uploads),
    })),
    on(DrawingActions.drawingRefused, (state, { uploadId, problem }) => ({
      ...state,
      uploads: uploadsAdapter.updateOne({ id: uploadId, changes: { problem, state: 'refused' } }, state.uploads),
    })),
    on(DrawingActions.uploadDismissed, (state, { uploadId }) => ({
      ...state,
      uploads: uploadsAdapter.removeOne(uploadId, state.uploads),
    })),
    on(DrawingActions.drawingChanged, (state, { drawing }) => ({
      ...state,
      drawings: drawingsAdapter.setOne(drawing, state.drawings),
      mergingComments: state.mergingComments === drawing.id ? null : state.mergingComments,
    })),
    on(DrawingActions.commentsMergeAskedFor, (state, { drawingId }) => ({ ...state, mergingComments: drawingId })),
    on(DrawingActions.layoutSheetsAskedFor, (state, { drawingId }) => ({ ...state, takingLayouts: drawingId })),
    on(SheetActions.sheetsCreated, (state) => ({ ...state, takingLayouts: null })),
    on(NoticeActions.requestRefused, (state) => ({ ...state, takingLayouts: null, mergingComments: null })),
  ),
});

/** The upload after the server has recognised the file. */
function afterReceiving(received: Exclude<Received, { outcome: 'added' }>): Partial<Upload> {
  return {
    state: received.outcome,
    drawing: 'drawing' in received ? received.drawing.id : null,
    offered: 'offered' in received ? received.offered : null,
    problem: received.outcome === 'locked' ? received.problem : null,
  };
}

/** How many of the files left out are named. */
const MOST_LEFT_OUT = 6;

const MANY: Readonly<Record<LeftOut['why'], string>> = {
  'not a drawing': 'not drawings',
  'too large': 'too large',
  'not a ZIP archive': 'not ZIP archives',
};

function leftOutInWords(files: readonly LeftOut[]): string {
  const reasons = [...new Set(files.map(({ why }) => why))];
  const sentences = reasons.map((why) => {
    const names = files.filter((file) => file.why === why).map(({ name }) => name);
    const more = names.length > MOST_LEFT_OUT ? ` and ${names.length - MOST_LEFT_OUT} more` : '';
    const shown = names.slice(0, MOST_LEFT_OUT).join(', ');
    return `Left out, ${names.length === 1 ? why : MANY[why]}: ${shown}${more}.`;
  });
  return sentences.join(' ');
}
