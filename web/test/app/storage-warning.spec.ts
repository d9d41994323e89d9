import { TestBed } from '@angular/core/testing';
import { MockStore } from '@ngrx/store/testing';
import type { StorageInfo } from '@folvex/contract';
import { StorageWarning } from '../../src/app/storage-warning';
import { LookupActions } from '../../src/state/lookups/lookups.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { projectInfo } from '../support/effects';
import { all, show, text } from '../support/parts';
import { after, type State } from '../support/state';

const WARNING = 'The disk that Folvex writes to has 900 MB left; make room before publishing stops.';
const opened = [
  ProjectActions.projectOpened({ projectId: projectInfo.id }),
  ProjectActions.projectArrived({ info: projectInfo }),
];
const query = { project: projectInfo.id, versions: 0, files: 0 };
const key = `storage ${JSON.stringify(query)}`;

function withWarning(warning: string | null): State {
  const answer: StorageInfo = { usedBytes: 1, maxBytes: null, warning };
  return after(
    ...opened,
    LookupActions.lookupAskedFor({ key, kind: 'storage', query }),
    LookupActions.answerArrived({ key, answer }),
  );
}

describe('the warning that storage runs out', () => {
  it('is shown while there is one, until it is dismissed, and again when it is another one', async () => {
    const fixture = await show(StorageWarning, {}, withWarning(WARNING));
    expect(text(fixture)).toContain(WARNING);
    all(fixture, 'button[aria-label=Dismiss]')[0]!.click();
    await fixture.whenStable();
    expect(text(fixture)).toBe('');
    TestBed.inject(MockStore).setState(withWarning('This project has used 9.5 GB of its 10 GB.'));
    await fixture.whenStable();
    expect(text(fixture)).toContain('9.5 GB of its 10 GB');
  });

  it('is not there where there is nothing to say', async () => {
    expect(text(await show(StorageWarning, {}, withWarning(null)))).toBe('');
  });
});
