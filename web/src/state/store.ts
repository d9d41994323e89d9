import type { EnvironmentProviders, Provider } from '@angular/core';
import { provideEffects } from '@ngrx/effects';
import { provideRouterStore, routerReducer } from '@ngrx/router-store';
import { provideStore } from '@ngrx/store';
import * as arrivalEffects from './arrivals/arrivals.effects';
import { arrivalsFeature } from './arrivals/arrivals.reducer';
import * as composedEffects from './composed/composed.effects';
import { composedFeature } from './composed/composed.reducer';
import { compareFeature } from './compare/compare.reducer';
import * as drawingEffects from './drawings/drawings.effects';
import { drawingsFeature } from './drawings/drawings.reducer';
import * as editEffects from './edits/edits.effects';
import { editsFeature } from './edits/edits.reducer';
import * as leavingEffects from './edits/leaving.effects';
import { findingsFeature } from './findings/findings.reducer';
import * as issueEffects from './issues/issues.effects';
import { issuesFeature } from './issues/issues.reducer';
import * as lookupEffects from './lookups/lookups.effects';
import { lookupsFeature } from './lookups/lookups.reducer';
import { noticesFeature } from './notices/notices.reducer';
import * as officeEffects from './office/office.effects';
import { officeFeature } from './office/office.reducer';
import * as packageEffects from './packages/packages.effects';
import { packagesFeature } from './packages/packages.reducer';
import * as presenceEffects from './presence/presence.effects';
import { presenceFeature } from './presence/presence.reducer';
import * as projectEffects from './project/project.effects';
import { projectFeature } from './project/project.reducer';
import * as recipientFilesEffects from './recipient-files/recipient-files.effects';
import { recipientFilesFeature } from './recipient-files/recipient-files.reducer';
import * as relinkEffects from './relink/relink.effects';
import { relinkFeature } from './relink/relink.reducer';
import * as runEffects from './runs/runs.effects';
import { runsFeature } from './runs/runs.reducer';
import * as sessionEffects from './session/session.effects';
import { sessionFeature } from './session/session.reducer';
import * as sheetEffects from './sheets/sheets.effects';
import { sheetsFeature } from './sheets/sheets.reducer';
import * as transferEffects from './transfer/transfer.effects';
import { transferFeature } from './transfer/transfer.reducer';
import * as webhookEffects from './webhooks/webhooks.effects';
import { webhooksFeature } from './webhooks/webhooks.reducer';

/** The features of the store. */
export const REDUCERS = {
  [sessionFeature.name]: sessionFeature.reducer,
  [officeFeature.name]: officeFeature.reducer,
  [projectFeature.name]: projectFeature.reducer,
  [presenceFeature.name]: presenceFeature.reducer,
  [drawingsFeature.name]: drawingsFeature.reducer,
  [arrivalsFeature.name]: arrivalsFeature.reducer,
  [sheetsFeature.name]: sheetsFeature.reducer,
  [packagesFeature.name]: packagesFeature.reducer,
  [runsFeature.name]: runsFeature.reducer,
  [issuesFeature.name]: issuesFeature.reducer,
  [findingsFeature.name]: findingsFeature.reducer,
  [compareFeature.name]: compareFeature.reducer,
  [relinkFeature.name]: relinkFeature.reducer,
  [editsFeature.name]: editsFeature.reducer,
  [composedFeature.name]: composedFeature.reducer,
  [lookupsFeature.name]: lookupsFeature.reducer,
  [transferFeature.name]: transferFeature.reducer,
  [webhooksFeature.name]: webhooksFeature.reducer,
  [recipientFilesFeature.name]: recipientFilesFeature.reducer,
  [noticesFeature.name]: noticesFeature.reducer,
};

/** The store with all its effects, and the address in it. */
export function provideState(): (EnvironmentProviders | Provider)[] {
  return [
    provideStore({ ...REDUCERS, router: routerReducer }),
    provideRouterStore(),
    provideEffects(
      sessionEffects,
      officeEffects,
      projectEffects,
      presenceEffects,
      recipientFilesEffects,
      drawingEffects,
      arrivalEffects,
      sheetEffects,
      packageEffects,
      runEffects,
      issueEffects,
      relinkEffects,
      editEffects,
      leavingEffects,
      composedEffects,
      lookupEffects,
      transferEffects,
      webhookEffects,
    ),
  ];
}
