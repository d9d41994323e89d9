/** Paths of the server's interface; `:name` stands for a parameter. */
export const ROUTES = {
  health: '/api/health',
  /** For whoever watches over a server: its process, what it needs, figures for Prometheus. */
  live: '/api/health/live',
  ready: '/api/health/ready',
  metrics: '/api/metrics',
  /** What can be asked of the server: OpenAPI 3.1. */
  openApi: '/api/openapi.json',
  /** Who is signed in; signing in and out. */
  session: '/api/session',
  /** Signing in by an OpenID provider: there, and back. */
  openId: '/api/session/openid',
  openIdReturn: '/api/session/openid/return',
  password: '/api/session/password',
  /** What an invitation is to; accepting it. */
  invitation: '/api/invitations/:invitation',
  accounts: '/api/accounts',
  account: '/api/accounts/:account',
  members: '/api/projects/:project/members',
  member: '/api/projects/:project/members/:account',
  tokens: '/api/tokens',
  token: '/api/tokens/:token',
  audit: '/api/audit',
  auditCsv: '/api/audit.csv',
  projects: '/api/projects',
  project: '/api/projects/:project',
  templatePage: '/api/projects/:project/title-blocks/:template/sheets/:sheet/page',
  /** A project as a ZIP archive comes in, and goes out. */
  projectImport: '/api/projects/import',
  projectZip: '/api/projects/:project/project.zip',
  projectRemoved: '/api/projects/:project/removed',
  settings: '/api/projects/:project/settings',
  /** What the project uses of the store. */
  storage: '/api/projects/:project/storage',
  /** A page that tells whether a plotter prints to scale, on a named paper. */
  testSheet: '/api/projects/:project/test-sheets/:paper',
  drawings: '/api/projects/:project/drawings',
  drawing: '/api/drawings/:drawing',
  /** Comments and marks in a PDF are drawn into its pages, as a newer version of it. */
  commentsMerged: '/api/drawings/:drawing/comments-merged',
  drawingRemoved: '/api/drawings/:drawing/removed',
  miniature: '/api/drawings/:drawing/miniature',
  offers: '/api/projects/:project/offers',
  /** What arrived in the inboxes of the project. */
  arrivals: '/api/projects/:project/arrivals',
  arrival: '/api/projects/:project/arrivals/:arrival',
  changes: '/api/drawings/:drawing/changes/:from/:to',
  changesPicture: '/api/drawings/:drawing/changes/:from/:to/picture',
  space: '/api/drawings/:drawing/spaces/:space',
  spacePage: '/api/drawings/:drawing/spaces/:space/page',
  spaceEntity: '/api/drawings/:drawing/spaces/:space/entities/:index',
  /** A picture in a drawing of this content (SHA-256). */
  picture: '/api/pictures/:content/:index',
  frames: '/api/projects/:project/drawings/:drawing/frames/:order',
  frameSheets: '/api/projects/:project/drawings/:drawing/frame-sheets',
  layoutSheets: '/api/projects/:project/drawings/:drawing/layout-sheets',
  sheets: '/api/projects/:project/sheets',
  sheetsChanged: '/api/projects/:project/sheets/changed',
  sheetCopies: '/api/projects/:project/sheets/:sheet/copies',
  sheetsRemoved: '/api/projects/:project/sheets/removed',
  sheet: '/api/projects/:project/sheets/:sheet',
  composedSheets: '/api/projects/:project/sheets/composed',
  history: '/api/projects/:project/history',
  undo: '/api/projects/:project/undo',
  redo: '/api/projects/:project/redo',
  sheetPage: '/api/projects/:project/sheets/:sheet/page',
  packages: '/api/projects/:project/packages',
  package: '/api/projects/:project/packages/:package',
  /** When it publishes by itself, and what came of that last. */
  schedule: '/api/projects/:project/packages/:package/schedule',
  addedPageFacts: '/api/projects/:project/packages/:package/added/:page/facts',
  atDestinations: '/api/projects/:project/destinations',
  transferServers: '/api/projects/:project/transfer-servers',
  transferServer: '/api/projects/:project/transfer-servers/:server',
  /** Tries it step by step. */
  transferServerTest: '/api/projects/:project/transfer-servers/:server/test',
  /** One that all projects of the office have. */
  officeServer: '/api/transfer-servers/:server',
  webhooks: '/api/projects/:project/webhooks',
  webhook: '/api/projects/:project/webhooks/:webhook',
  /** Gives it a new one. */
  webhookSecret: '/api/projects/:project/webhooks/:webhook/secret',
  webhookTest: '/api/projects/:project/webhooks/:webhook/test',
  webhookCallAgain: '/api/projects/:project/webhooks/:webhook/calls/:call/again',
  runs: '/api/projects/:project/packages/:package/runs',
  run: '/api/runs/:run',
  runEvents: '/api/runs/:run/events',
  runRemoved: '/api/runs/:run/removed',
  runCancel: '/api/runs/:run/cancel',
  runFile: '/api/runs/:run/files/:index',
  runZip: '/api/runs/:run/files.zip',
  runReport: '/api/runs/:run/report.:format',
  runAgain: '/api/runs/:run/again',
  /** What of a run is at a destination already. */
  runDestination: '/api/runs/:run/destination',
  deliveries: '/api/runs/:run/deliveries',
  deliveryAgain: '/api/runs/:run/deliveries/:delivery/again',
  deliveryCancel: '/api/runs/:run/deliveries/:delivery/cancel',
  /** What lets somebody into the recipient's page of a delivery; closing it. */
  recipientPageKey: '/api/runs/:run/deliveries/:delivery/page',
  /** What a recipient sees, by the link in an email. */
  recipientPage: '/api/recipient-pages/:link',
  recipientFile: '/api/recipient-pages/:link/files/:index',
  recipientZip: '/api/recipient-pages/:link/files.zip',
  /** Each sheet as it was last issued. */
  issuedSheets: '/api/projects/:project/issued-sheets',
  issues: '/api/projects/:project/issues',
  register: '/api/projects/:project/issues/register.xlsx',
  transmittal: '/api/projects/:project/issues/:issue/transmittal.pdf',
  font: '/api/fonts/:font',
  /** The project's own typefaces: uploads. */
  typefaces: '/api/projects/:project/typefaces',
  ownFont: '/api/projects/:project/typefaces/:font',
  /** Who has which project open. */
  everyPresence: '/api/presence',
  /** Who has the project open, as browser windows report every few seconds. */
  presence: '/api/projects/:project/presence',
  presenceEnded: '/api/projects/:project/presence/ended',
  /** A typeface of the project that a drawing is in. */
  drawingFont: '/api/drawings/:drawing/typefaces/:font',
} as const;

/** A route with its parameters filled in. */
export function path(route: string, parameters: Readonly<Record<string, string | number>> = {}): string {
  return route.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(parameters[name])));
}
