/** Paths of the server's interface; `:name` stands for a parameter. */
export const ROUTES = {
  health: '/api/health',
  projects: '/api/projects',
  project: '/api/projects/:project',
  settings: '/api/projects/:project/settings',
  drawings: '/api/projects/:project/drawings',
  drawing: '/api/drawings/:drawing',
  miniature: '/api/drawings/:drawing/miniature',
  offers: '/api/projects/:project/offers',
  changes: '/api/drawings/:drawing/changes/:from/:to',
  changesPicture: '/api/drawings/:drawing/changes/:from/:to/picture',
  space: '/api/drawings/:drawing/spaces/:space',
  spacePage: '/api/drawings/:drawing/spaces/:space/page',
  spaceEntity: '/api/drawings/:drawing/spaces/:space/entities/:index',
  picture: '/api/pictures/:drawing/:index',
  frames: '/api/projects/:project/drawings/:drawing/frames/:order',
  frameSheets: '/api/projects/:project/drawings/:drawing/frame-sheets',
  layoutSheets: '/api/projects/:project/drawings/:drawing/layout-sheets',
  sheets: '/api/projects/:project/sheets',
  sheetsChanged: '/api/projects/:project/sheets/changed',
  sheetCopies: '/api/projects/:project/sheets/:sheet/copies',
  sheetsRemoved: '/api/projects/:project/sheets/removed',
  sheet: '/api/projects/:project/sheets/:sheet',
  sheetFacts: '/api/projects/:project/sheets/:sheet/facts',
  history: '/api/projects/:project/history',
  undo: '/api/projects/:project/undo',
  redo: '/api/projects/:project/redo',
  sheetPage: '/api/projects/:project/sheets/:sheet/page',
  packages: '/api/projects/:project/packages',
  package: '/api/projects/:project/packages/:package',
  runs: '/api/projects/:project/packages/:package/runs',
  run: '/api/runs/:run',
  runEvents: '/api/runs/:run/events',
  runCancel: '/api/runs/:run/cancel',
  runFile: '/api/runs/:run/files/:index',
  runZip: '/api/runs/:run/files.zip',
  font: '/api/fonts/:font',
} as const;

/** A route with its parameters filled in. */
export function path(route: string, parameters: Readonly<Record<string, string | number>> = {}): string {
  return route.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(parameters[name])));
}
