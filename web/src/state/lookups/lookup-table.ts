import type {
  AtDestination,
  FramesInfo,
  InvitationInfo,
  LookedAtDestination,
  ProjectInfo,
  RecipientPageKey,
  ScheduleInfo,
  SpaceInfo,
  StorageInfo,
} from '@folvex/contract';
import type { Destination, DrawingChanges, EntityFacts, FrameOrder } from '@folvex/core';
import type { Observable } from 'rxjs';
import type { Api } from '../api';
import type { ApiDescription } from '../api-description';
import type { OfficeApi } from '../office-api';

/** What is read from the server and never edited: the query of each kind, and its answer. */
export interface LookupTable {
  /** The frames of a drawing, by layer. `hash`: SHA-256 of its content. */
  frames: [{ project: string; drawing: string; order: FrameOrder; hash: string }, FramesInfo[]];
  /** What differs between two contents of a drawing, by their SHA-256. */
  changes: [{ drawing: string; from: string; to: string }, DrawingChanges];
  /** How a space of a drawing is looked at. */
  space: [{ drawing: string; space: number; hash: string | undefined }, SpaceInfo];
  entity: [{ drawing: string; space: number; index: number; hash: string | undefined }, EntityFacts];
  /** Another project; `asked` tells one time of asking from the next. */
  project: [{ project: string; asked: number }, ProjectInfo];
  /** What a project uses of the store; `versions` of drawings and `files` of runs: how many it has. */
  storage: [{ project: string; versions: number; files: number }, StorageInfo];
  /** What can be asked of the server. */
  apiDescription: [Record<string, never>, ApiDescription];
  /** What an invitation is to, by the secret of its link. */
  invitation: [{ invitation: string }, InvitationInfo];
  /** Which of the files that a package would write are at its destinations. `after`: the run that wrote there last. */
  atDestinations: [
    { project: string; destinations: readonly Destination[]; paths: readonly string[]; after: string },
    LookedAtDestination[],
  ];
  /** When a package publishes by itself; what is told changes with its settings and its runs. */
  schedule: [{ project: string; pack: string; settings: readonly unknown[]; after: string }, ScheduleInfo];
  /** What lets a recipient into the page of a delivery. */
  recipientPageKey: [{ run: string; delivery: string }, RecipientPageKey];
  /** Which files of a run are at a destination. `after`: how often it was sent before. */
  runAtDestination: [{ run: string; destination: Destination; after: number }, AtDestination];
}

export type LookupKind = keyof LookupTable;
export type LookupQuery<K extends LookupKind> = LookupTable[K][0];
export type LookupAnswer<K extends LookupKind> = LookupTable[K][1];

/** Where a lookup may ask. */
export interface Apis {
  api: Api;
  office: OfficeApi;
}

/** How each kind is asked for. */
export const LOOKUPS: {
  readonly [K in LookupKind]: (apis: Apis, query: LookupQuery<K>) => Observable<LookupAnswer<K>>;
} = {
  frames: ({ api }, { project, drawing, order }) => api.frames(project, drawing, order),
  changes: ({ api }, { drawing, from, to }) => api.changes(drawing, from, to),
  space: ({ api }, { drawing, space }) => api.space(drawing, space),
  entity: ({ api }, { drawing, space, index }) => api.entity(drawing, space, index),
  project: ({ api }, { project }) => api.project(project),
  storage: ({ api }, { project }) => api.storage(project),
  apiDescription: ({ api }) => api.description(),
  invitation: ({ office }, { invitation }) => office.invitation(invitation),
  atDestinations: ({ api }, { project, destinations, paths }) => api.atDestinations(project, destinations, paths),
  schedule: ({ api }, { project, pack }) => api.schedule(project, pack),
  recipientPageKey: ({ office }, { run, delivery }) => office.recipientPageKey(run, delivery),
  runAtDestination: ({ api }, { run, destination }) => api.runAtDestination(run, destination),
};
