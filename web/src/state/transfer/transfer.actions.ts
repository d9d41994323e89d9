import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { TransferServer, TransferServerChange, TransferStep } from '@folvex/contract';

/** The transfer servers of the open project. */
export const TransferActions = createActionGroup({
  source: 'Transfer',
  events: {
    'Servers asked for': emptyProps(),
    'Servers arrived': props<{ servers: TransferServer[] }>(),
    'Server added': props<{ id: string; set: TransferServerChange }>(),
    /** `change`: only what was typed. */
    'Server edited': props<{ id: string; change: Partial<TransferServerChange> }>(),
    'Server removal asked for': props<{ id: string }>(),
    'Test asked for': props<{ id: string }>(),
    /** All edits that were made before it are saved. */
    'Test due': props<{ id: string }>(),
    'Test ended': props<{ id: string; steps: TransferStep[] }>(),
    'Test failed': props<{ id: string }>(),
  },
});
