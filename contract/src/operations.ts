import type { AuditEvent, Role } from './access';
import { ROUTES } from './routes';

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
/**
 * `anyone`: nobody needs to be signed in. `somebody`: whoever is, also a script by its token. `person`: no script. A role:
 * in the project that the address is about.
 */
export type Needed = 'anyone' | 'somebody' | 'person' | 'owner' | Role;

/** What a route does for one method. The server's guards and the description of the API are made from these. */
export interface Operation {
  summary: string;
  needs: Needed;
  /** What the audit says of it. Edits are in the audit by themselves. */
  audit?: AuditEvent;
  /** Name of the type of the JSON that it takes, or the media type of a form. */
  takes?: string;
  /** What may be in the query, and what it means. */
  query?: Readonly<Record<string, string>>;
  /**
   * What it answers, by status: the name of the type of the JSON, `[]` after it for a list of them; or a media type, or
   * several; or nothing. Refusals are not listed: they have any status from 400 on, and the type `Refusal`.
   */
  answers: Readonly<Record<number, string>>;
}

/** A form that has one file, in a field of any name (RFC 7578). */
const FORM = 'multipart/form-data';
const PDF = 'application/pdf';
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
/** Packed pages, which browsers paint. */
const PACKED = 'application/octet-stream';
const NOTHING = '';

function op(
  summary: string,
  needs: Needed,
  answers: Operation['answers'],
  rest: Pick<Operation, 'audit' | 'takes' | 'query'> = {},
): Operation {
  return { summary, needs, answers, ...rest };
}

/** Every route, by method. A method that is not here has no route. */
export const OPERATIONS: Readonly<Record<keyof typeof ROUTES, Readonly<Partial<Record<Method, Operation>>>>> = {
  health: { get: op('Whether the server answers, and how many projects it has', 'anyone', { 200: 'Health' }) },
  live: { get: op('Whether the process is alive', 'anyone', { 200: 'Liveness' }) },
  ready: {
    get: op('Whether the server can work: database, store, disk, a worker', 'anyone', {
      200: 'Readiness',
      503: 'Readiness',
    }),
  },
  metrics: { get: op('Metrics for Prometheus', 'somebody', { 200: 'text/plain' }) },
  openApi: { get: op('This description, as OpenAPI 3.1', 'anyone', { 200: 'application/json' }) },
  session: {
    get: op('Who is signed in', 'anyone', { 200: 'SessionInfo' }),
    post: op('Signs in with a password', 'anyone', { 200: 'SessionInfo' }, { takes: 'SignIn' }),
    delete: op('Signs out', 'anyone', { 204: NOTHING }),
  },
  openId: { get: op('Redirects to the OpenID provider', 'anyone', { 302: NOTHING }) },
  openIdReturn: { get: op('Receives the answer of the OpenID provider', 'anyone', { 302: NOTHING }) },
  password: {
    post: op(
      'Changes the password and ends all other sessions',
      'person',
      { 204: NOTHING },
      { takes: 'PasswordChange', audit: 'account.password' },
    ),
  },
  invitation: {
    get: op('What an invitation is for', 'anyone', { 200: 'InvitationInfo' }),
    post: op('Accepts an invitation', 'anyone', { 201: 'SessionInfo' }, { takes: 'InvitationAcceptance' }),
  },
  accounts: { get: op('Lists all accounts', 'owner', { 200: 'AccountRow[]' }) },
  account: {
    patch: op(
      'Grants or revokes ownership, closes or reopens an account',
      'owner',
      { 200: 'AccountRow[]' },
      { takes: 'AccountChange', audit: 'account.changed' },
    ),
  },
  members: {
    get: op('Lists the members of a project', 'reader', { 200: 'Member[]' }),
    post: op(
      'Adds a member who has an account, or returns an invitation link to send',
      'lead',
      { 200: 'Invited' },
      { takes: 'Invitation', audit: 'member.invited' },
    ),
  },
  member: {
    put: op(
      'Changes a role, or ends a membership',
      'lead',
      { 200: 'Member[]' },
      { takes: 'MemberChange', audit: 'member.changed' },
    ),
  },
  tokens: {
    get: op('Lists your tokens', 'person', { 200: 'TokenInfo[]' }),
    post: op(
      'Creates a token for a script',
      'person',
      { 201: 'NewToken' },
      { takes: 'TokenRequest', audit: 'token.created' },
    ),
  },
  token: { delete: op('Revokes a token', 'person', { 204: NOTHING }, { audit: 'token.revoked' }) },
  audit: {
    get: op(
      'Who did what and when, latest first',
      'owner',
      { 200: 'AuditRow[]' },
      { query: { before: 'Id of a row; only older rows are listed' } },
    ),
  },
  auditCsv: { get: op('The whole audit as CSV', 'owner', { 200: 'text/csv' }) },
  projects: {
    get: op('Lists the projects that you may see', 'somebody', { 200: 'ProjectSummary[]' }),
    post: op(
      'Creates a project, which you lead',
      'person',
      { 201: 'ProjectSummary' },
      { takes: 'NewProject', audit: 'project.created' },
    ),
  },
  project: {
    get: op('A project with its settings, drawings, sheets, packages and runs', 'reader', { 200: 'ProjectInfo' }),
  },
  templatePage: { get: op('A title block as it comes out on a sheet', 'reader', { 200: PACKED }) },
  projectImport: {
    post: op(
      'Creates a project from an archive',
      'person',
      { 201: 'ProjectSummary' },
      { takes: FORM, audit: 'project.created' },
    ),
  },
  projectZip: {
    get: op(
      'A project as an archive: its job file and drawings',
      'reader',
      { 200: 'application/zip' },
      { audit: 'project.downloaded' },
    ),
  },
  projectRemoved: {
    put: op(
      'Removes a project, or restores it',
      'lead',
      { 200: 'ProjectSummary[]' },
      { takes: 'Removal', audit: 'project.removed' },
    ),
  },
  settings: { patch: op('Changes settings', 'drafter', { 200: 'EditAnswer' }, { takes: 'SettingsChange' }) },
  storage: { get: op('How much of the store a project uses', 'reader', { 200: 'StorageInfo' }) },
  testSheet: { get: op('A page that shows whether a plotter prints to scale', 'reader', { 200: PDF }) },
  drawings: {
    post: op(
      'Uploads a drawing; one that is known, newer or locked is returned for a decision',
      'drafter',
      { 200: 'Received', 201: 'Received' },
      {
        takes: FORM,
        audit: 'drawing.received',
        query: { newerOf: 'Id of the drawing that the file is a newer version of' },
      },
    ),
  },
  drawing: {
    get: op('A drawing and its versions', 'reader', { 200: 'DrawingInfo' }),
    patch: op(
      'Changes the name, the unit or the named windows of a drawing',
      'drafter',
      { 200: 'DrawingInfo' },
      { takes: 'DrawingChange', audit: 'drawing.changed' },
    ),
  },
  commentsMerged: {
    post: op(
      'Draws the comments and marks of a PDF into its pages, as a newer version of it',
      'drafter',
      { 200: 'DrawingInfo' },
      { audit: 'drawing.changed' },
    ),
  },
  drawingRemoved: {
    put: op(
      'Removes a drawing, or restores it',
      'lead',
      { 200: 'DrawingInfo' },
      { takes: 'Removal', audit: 'drawing.removed' },
    ),
  },
  miniature: { get: op('A small picture of a drawing', 'reader', { 200: PACKED, 304: NOTHING }) },
  offers: {
    post: op(
      'Decides what becomes of an uploaded file',
      'drafter',
      { 200: 'Received' },
      { takes: 'OfferAnswer', audit: 'drawing.received' },
    ),
  },
  arrivals: { get: op('What arrived in the inboxes of a project', 'reader', { 200: 'Arrivals' }) },
  arrival: {
    post: op(
      'Decides on a file that arrived in an inbox',
      'drafter',
      { 200: 'ArrivalAnswered' },
      { takes: 'ArrivalAnswer', audit: 'arrival.decided' },
    ),
  },
  changes: { get: op('What differs between two versions of a drawing', 'reader', { 200: 'DrawingChanges' }) },
  changesPicture: { get: op('The differences of two versions as a picture', 'reader', { 200: PACKED }) },
  space: { get: op('How a space of a drawing is displayed', 'reader', { 200: 'SpaceInfo' }) },
  spacePage: { get: op('The page of a space of a drawing', 'reader', { 200: PACKED, 304: NOTHING }) },
  spaceEntity: { get: op('The facts of an entity of a drawing', 'reader', { 200: 'EntityFacts' }) },
  picture: {
    get: op('A picture in a drawing, or the PDF whose page it shows', 'reader', { 200: 'image/* application/pdf' }),
  },
  frames: { get: op('Closed rectangles of a drawing, by layer', 'reader', { 200: 'FramesInfo[]' }) },
  frameSheets: {
    post: op(
      'Creates sheets from the frames of a layer',
      'drafter',
      { 201: 'EditAnswer' },
      { takes: 'NewFrameSheets' },
    ),
  },
  layoutSheets: { post: op('Creates sheets from the layouts of a drawing', 'drafter', { 201: 'EditAnswer' }) },
  sheets: { post: op('Creates a sheet', 'drafter', { 201: 'EditAnswer' }, { takes: 'NewSheet' }) },
  sheetsChanged: { post: op('Changes several sheets', 'drafter', { 200: 'EditAnswer' }, { takes: 'ManyChange' }) },
  sheetCopies: { post: op('Copies a sheet', 'drafter', { 201: 'EditAnswer' }) },
  sheetsRemoved: { post: op('Removes sheets', 'drafter', { 200: 'EditAnswer' }, { takes: 'SheetIds' }) },
  sheet: { patch: op('Changes a sheet', 'drafter', { 200: 'EditAnswer' }, { takes: 'SheetChange' }) },
  composedSheets: {
    post: op('Composes sheets and returns their facts', 'reader', { 200: 'ComposedSheets' }, { takes: 'SheetIds' }),
  },
  history: { get: op('What can be undone and redone', 'reader', { 200: 'EditHistory' }) },
  undo: { post: op('Undoes the last edit', 'drafter', { 200: 'EditAnswer' }) },
  redo: { post: op('Redoes the last edit undone', 'drafter', { 200: 'EditAnswer' }) },
  sheetPage: { get: op('The page of a sheet', 'reader', { 200: PACKED, 304: NOTHING }) },
  packages: { post: op('Creates a package', 'drafter', { 201: 'EditAnswer' }, { takes: 'NewPackage' }) },
  package: {
    patch: op(
      'Changes a package; its destinations, and who is emailed, only as a lead',
      'drafter',
      { 200: 'EditAnswer' },
      { takes: 'PackageChange' },
    ),
    delete: op('Removes a package', 'drafter', { 200: 'EditAnswer' }),
  },
  schedule: { get: op('When a package publishes by itself', 'reader', { 200: 'ScheduleInfo' }) },
  addedPageFacts: { get: op('Facts of a page that a package adds', 'reader', { 200: 'SheetFacts' }) },
  atDestinations: {
    post: op(
      'Which of the given files exist at destinations',
      'drafter',
      { 200: 'LookedAtDestination[]' },
      { takes: 'DestinationQuery' },
    ),
  },
  transferServers: {
    get: op('Lists the transfer servers of a project and those of the office', 'reader', { 200: 'TransferServer[]' }),
  },
  transferServer: {
    put: op(
      'Adds or changes a transfer server',
      'lead',
      { 200: 'TransferServer[]' },
      { takes: 'TransferServerChange', audit: 'transfer.changed' },
    ),
    delete: op('Removes a transfer server', 'lead', { 200: 'TransferServer[]' }, { audit: 'transfer.removed' }),
  },
  transferServerTest: { post: op('Tests a transfer server step by step', 'lead', { 200: 'TransferStep[]' }) },
  officeServer: {
    put: op(
      'Adds or changes a transfer server that all projects have; its id begins with office:',
      'owner',
      { 204: NOTHING },
      { takes: 'TransferServerChange', audit: 'transfer.changed' },
    ),
    delete: op(
      'Removes a transfer server that all projects have',
      'owner',
      { 204: NOTHING },
      { audit: 'transfer.removed' },
    ),
  },
  webhooks: { get: op('Lists the webhooks of a project', 'lead', { 200: 'Webhook[]' }) },
  webhook: {
    put: op(
      'Adds or changes a webhook; the secret of a new one is returned once',
      'lead',
      { 200: 'WebhooksChanged' },
      { takes: 'WebhookChange', audit: 'webhook.changed' },
    ),
    delete: op('Removes a webhook', 'lead', { 200: 'WebhooksChanged' }, { audit: 'webhook.removed' }),
  },
  webhookSecret: {
    post: op('Gives a webhook a new secret', 'lead', { 200: 'WebhooksChanged' }, { audit: 'webhook.changed' }),
  },
  webhookTest: { post: op('Sends a test message', 'lead', { 200: 'WebhooksChanged' }) },
  webhookCallAgain: { post: op('Sends a message again', 'lead', { 200: 'WebhooksChanged' }) },
  runs: {
    post: op(
      'Publishes a package; findings of the checks may stop it',
      'drafter',
      { 201: 'RunInfo', 409: 'StoppedRun' },
      { takes: 'RunOptions', audit: 'run.started' },
    ),
  },
  run: {
    get: op('A run, its sheets and files', 'reader', { 200: 'RunInfo' }),
    patch: op('Renames a run', 'drafter', { 200: 'RunInfo' }, { takes: 'RunChange', audit: 'run.changed' }),
  },
  runEvents: {
    get: op('Server-sent events: the run (RunInfo) whenever it changes, until it is settled', 'reader', {
      200: 'text/event-stream',
    }),
  },
  runRemoved: {
    put: op('Removes a run, or restores it', 'lead', { 200: 'RunInfo' }, { takes: 'Removal', audit: 'run.removed' }),
  },
  runCancel: { post: op('Cancels a run', 'drafter', { 200: 'RunInfo' }, { audit: 'run.changed' }) },
  runFile: {
    get: op(
      'A file of a run',
      'reader',
      { 200: 'application/pdf image/*', 206: '*/*', 304: NOTHING },
      { audit: 'run.downloaded', query: { save: 'If present, the file is sent as an attachment' } },
    ),
  },
  runZip: { get: op('All files of a run', 'reader', { 200: 'application/zip' }, { audit: 'run.downloaded' }) },
  runReport: {
    get: op(
      'The report of a run, as json, csv or xlsx',
      'reader',
      { 200: `application/json text/csv ${XLSX}` },
      { audit: 'run.downloaded' },
    ),
  },
  runAgain: { post: op('Repeats a run', 'drafter', { 201: 'RunInfo' }, { audit: 'run.started' }) },
  runDestination: {
    post: op('Which files of a run exist at a destination', 'lead', { 200: 'AtDestination' }, { takes: 'RunDelivery' }),
  },
  deliveries: {
    post: op('Sends a run to a destination', 'lead', { 201: 'RunInfo' }, { takes: 'RunDelivery', audit: 'run.sent' }),
  },
  deliveryAgain: {
    post: op('Sends again what did not arrive', 'drafter', { 200: 'RunInfo' }, { audit: 'run.sent' }),
  },
  deliveryCancel: { post: op('Cancels a delivery', 'drafter', { 200: 'RunInfo' }, { audit: 'delivery.cancelled' }) },
  recipientPageKey: {
    get: op(
      "The link and the password of a delivery's page",
      'lead',
      { 200: 'RecipientPageKey' },
      { audit: 'page.shared' },
    ),
    delete: op("Closes a delivery's page", 'lead', { 200: 'RunInfo' }, { audit: 'page.closed' }),
  },
  recipientPage: {
    post: op(
      "Opens a recipient's page; whoever has its link needs no account",
      'anyone',
      { 200: 'RecipientPageContent' },
      { takes: 'RecipientPageOpening' },
    ),
  },
  recipientFile: {
    get: op("A file of a recipient's page", 'anyone', {
      200: 'application/pdf image/*',
      206: '*/*',
      304: NOTHING,
    }),
  },
  recipientZip: { get: op("All files of a recipient's page", 'anyone', { 200: 'application/zip' }) },
  issuedSheets: { get: op('Each sheet as it was last issued', 'reader', { 200: 'IssuedState[]' }) },
  issues: {
    get: op('Lists the issues', 'reader', { 200: 'Issue[]' }),
    post: op('Issues a run', 'lead', { 201: 'Issue' }, { takes: 'NewIssue', audit: 'issue.made' }),
  },
  register: {
    get: op(
      'The register of issues as a workbook',
      'reader',
      { 200: XLSX },
      {
        audit: 'issue.downloaded',
        query: {
          text: 'Only entries that contain this text',
          purpose: 'Only issues for this purpose',
          recipient: 'Only issues to this recipient',
          current: 'If present, only sheets as they were last issued',
          changed: 'If present, only sheets that changed since their previous issue',
        },
      },
    ),
  },
  transmittal: { get: op('The transmittal of an issue', 'reader', { 200: PDF }, { audit: 'issue.downloaded' }) },
  font: { get: op('A typeface that ships', 'somebody', { 200: 'font/ttf', 304: NOTHING }) },
  typefaces: { post: op('Adds typefaces to a project', 'drafter', { 201: 'EditAnswer' }, { takes: FORM }) },
  ownFont: { get: op('A typeface of a project', 'reader', { 200: 'font/otf', 304: NOTHING }) },
  everyPresence: { get: op('Who has which project open', 'somebody', { 200: 'EveryPresence' }) },
  presence: {
    post: op(
      'Reports that a window has the project open; answers who has, and what is new',
      'reader',
      { 200: 'ProjectNews' },
      { takes: 'Presence' },
    ),
  },
  presenceEnded: {
    post: op('Reports that a window was closed', 'reader', { 204: NOTHING }, { takes: 'PresenceEnded' }),
  },
  drawingFont: {
    get: op('A typeface of the project that a drawing is in', 'reader', { 200: 'font/otf', 304: NOTHING }),
  },
};

/** An operation with the address that it is asked for at. */
export interface RoutedOperation {
  name: keyof typeof ROUTES;
  route: string;
  method: Method;
  operation: Operation;
}

/** All operations, one after the other. */
export function everyOperation(): RoutedOperation[] {
  const names = Object.keys(OPERATIONS) as (keyof typeof ROUTES)[];
  return names.flatMap((name) =>
    Object.entries(OPERATIONS[name]).map(([method, operation]) => ({
      ...{ name, route: ROUTES[name], operation },
      method: method as Method,
    })),
  );
}
