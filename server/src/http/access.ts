import type { AuditEvent, ROUTES, Role } from '@folvex/contract';

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
/**
 * `anyone`: nobody needs to be signed in. `somebody`: whoever is, also a script by its token. `person`: no script. A role:
 * in the project that the address is about.
 */
export type Needed = 'anyone' | 'somebody' | 'person' | 'owner' | Role;

/** What a route needs, and what the audit says of it. Edits are in the audit by themselves. */
export interface RouteAccess {
  needs: Needed;
  audit?: AuditEvent;
}

const LOOK: RouteAccess = { needs: 'reader' };
const EDIT: RouteAccess = { needs: 'drafter' };
const owned = (audit?: AuditEvent): RouteAccess => ({ needs: 'owner', ...(audit && { audit }) });
const of = (needs: Needed, audit: AuditEvent): RouteAccess => ({ needs, audit });

/** Every route with what it needs, by method. A method that is not here has no route. */
export const ACCESS: Readonly<Record<keyof typeof ROUTES, Partial<Record<Method, RouteAccess>>>> = {
  health: { get: { needs: 'anyone' } },
  live: { get: { needs: 'anyone' } },
  ready: { get: { needs: 'anyone' } },
  metrics: { get: { needs: 'somebody' } },
  session: { get: { needs: 'anyone' }, post: { needs: 'anyone' }, delete: { needs: 'anyone' } },
  openId: { get: { needs: 'anyone' } },
  openIdReturn: { get: { needs: 'anyone' } },
  password: { post: of('person', 'account.password') },
  invitation: { get: { needs: 'anyone' }, post: { needs: 'anyone' } },
  accounts: { get: owned() },
  account: { patch: owned('account.changed') },
  members: { get: LOOK, post: of('lead', 'member.invited') },
  member: { put: of('lead', 'member.changed') },
  tokens: { get: { needs: 'person' }, post: of('person', 'token.created') },
  token: { delete: of('person', 'token.revoked') },
  audit: { get: owned() },
  auditCsv: { get: owned() },
  projects: { get: { needs: 'somebody' }, post: of('person', 'project.created') },
  project: { get: LOOK },
  templatePage: { get: LOOK },
  projectImport: { post: of('person', 'project.created') },
  projectZip: { get: of('reader', 'project.downloaded') },
  projectRemoved: { put: of('lead', 'project.removed') },
  settings: { patch: EDIT },
  testSheet: { get: LOOK },
  drawings: { post: of('drafter', 'drawing.received') },
  drawing: { patch: of('drafter', 'drawing.changed') },
  commentsMerged: { post: of('drafter', 'drawing.changed') },
  drawingRemoved: { put: of('lead', 'drawing.removed') },
  miniature: { get: LOOK },
  offers: { post: of('drafter', 'drawing.received') },
  changes: { get: LOOK },
  changesPicture: { get: LOOK },
  space: { get: LOOK },
  spacePage: { get: LOOK },
  spaceEntity: { get: LOOK },
  picture: { get: LOOK },
  frames: { get: LOOK },
  frameSheets: { post: EDIT },
  layoutSheets: { post: EDIT },
  sheets: { post: EDIT },
  sheetsChanged: { post: EDIT },
  sheetCopies: { post: EDIT },
  sheetsRemoved: { post: EDIT },
  sheet: { patch: EDIT },
  composedSheets: { post: LOOK },
  history: { get: LOOK },
  undo: { post: EDIT },
  redo: { post: EDIT },
  sheetPage: { get: LOOK },
  packages: { post: EDIT },
  package: { patch: EDIT, delete: EDIT },
  addedPageFacts: { get: LOOK },
  atDestination: { post: EDIT },
  transferServers: { get: LOOK },
  transferServer: { put: of('lead', 'transfer.changed'), delete: of('lead', 'transfer.removed') },
  transferServerTest: { post: { needs: 'lead' } },
  runs: { post: of('drafter', 'run.started') },
  run: { get: LOOK, patch: of('drafter', 'run.changed') },
  runEvents: { get: LOOK },
  runRemoved: { put: of('lead', 'run.removed') },
  runCancel: { post: of('drafter', 'run.changed') },
  runFile: { get: of('reader', 'run.downloaded') },
  runZip: { get: of('reader', 'run.downloaded') },
  runReport: { get: of('reader', 'run.downloaded') },
  runAgain: { post: of('drafter', 'run.started') },
  storage: { get: LOOK },
  issuedSheets: { get: LOOK },
  issues: { get: LOOK, post: of('lead', 'issue.made') },
  register: { get: of('reader', 'issue.downloaded') },
  transmittal: { get: of('reader', 'issue.downloaded') },
  font: { get: { needs: 'somebody' } },
  typefaces: { post: EDIT },
  ownFont: { get: LOOK },
  everyPresence: { get: { needs: 'somebody' } },
  presence: { post: LOOK },
  presenceEnded: { post: LOOK },
  drawingFont: { get: LOOK },
};
