import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { TransferServer, TransferServerChange, TransferStep } from '@folvex/contract';

/** The transfer servers of the open project. */
export const TransferActions = createActionGroup({
  source: 'Transfer',
  events: {
    'Servers asked for': emptyProps(),
    'Servers arrived': props<{ servers: TransferServer[] }>(),
    'Server edited': props<{ id: string; set: TransferServerChange }>(),
    'Server removal asked for': props<{ id: string }>(),
    'Test asked for': props<{ id: string }>(),
    'Test ended': props<{ id: string; steps: TransferStep[] }>(),
    'Test failed': props<{ id: string }>(),
  },
});
