import { createActionGroup, props } from '@ngrx/store';
import type { DrawingChange, DrawingInfo, NewFrameSheets, OfferAnswer, Received } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import type { LeftOut } from './unpack';

export const DrawingActions = createActionGroup({
  source: 'Drawings',
  events: {
    /** `newerOf`: the drawing that the file is meant to be a newer version of. */
    'Files dropped': props<{ files: File[]; newerOf?: string }>(),
    'Files left out': props<{ uploadId: number; files: LeftOut[] }>(),
    'Upload began': props<{ uploadId: number; name: string }>(),
    'Upload advanced': props<{ uploadId: number; share: number }>(),
    'File received': props<{ uploadId: number; received: Received }>(),
    'Offer answered': props<{ uploadId: number; as: OfferAnswer['as']; password: string }>(),
    'Drawing refused': props<{ uploadId: number; problem: Problem }>(),
    'Upload dismissed': props<{ uploadId: number }>(),
    /** A person states the unit of a drawing, or its named windows anew. */
    'Drawing stated': props<{ drawingId: string; change: DrawingChange }>(),
    /** The comments in a PDF are to be drawn into its pages. */
    'Comments merge asked for': props<{ drawingId: string }>(),
    /** Removed, or restored. */
    'Removal asked for': props<{ drawingId: string; removed: boolean }>(),
    'Drawing changed': props<{ drawing: DrawingInfo }>(),
    'Layout sheets asked for': props<{ drawingId: string }>(),
    'Frame sheets asked for': props<{ drawingId: string; wanted: NewFrameSheets }>(),
  },
});
