import { TestBed } from '@angular/core/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import { SHIPPED_TEMPLATES } from '@folvex/core';
import { TitleBlocks } from '../../../src/places/settings/title-blocks';
import { NoticeActions } from '../../../src/state/notices/notices.actions';
import { ProjectActions, SettingsActions } from '../../../src/state/project/project.actions';
import { SheetActions } from '../../../src/state/sheets/sheets.actions';
import { projectInfo } from '../../support/effects';
import { press } from '../../support/panels';
import { show } from '../../support/parts';
import { sheet } from '../../support/sheet';
import { after } from '../../support/state';

const [shipped] = SHIPPED_TEMPLATES;

async function copied(template: string | undefined): Promise<Action[]> {
  TestBed.resetTestingModule();
  const sheets = [{ ...sheet('1:50'), ...(template && { titleBlock: { template, fields: {} } }) }];
  const state = after(ProjectActions.projectArrived({ info: { ...projectInfo, sheets } }));
  const fixture = await show(TitleBlocks, {}, state);
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  press(fixture, 'Duplicate to edit');
  return sent;
}

describe('a copy of a title block', () => {
  it('is offered to the sheets that have the original', async () => {
    const sent = await copied(shipped!.id);
    const edited = sent.find(({ type }) => type === SettingsActions.settingsEdited.type) as ReturnType<
      typeof SettingsActions.settingsEdited
    >;
    const { id } = edited.change.project!.titleBlocks![0]!;
    const { notice } = sent.find(({ type }) => type === NoticeActions.noticeShown.type) as ReturnType<
      typeof NoticeActions.noticeShown
    >;
    expect(notice.sentence).toBe(`1 sheet still has ${shipped!.name}.`);
    const dispatch = SheetActions.severalEdited({ change: { ids: ['a'], set: { template: id } } });
    expect(notice.action).toEqual({ words: 'Use the copy instead', dispatch });
  });

  it('is offered to nobody where no sheet has the original', async () => {
    const types = (await copied(undefined)).map(({ type }) => type);
    expect(types).toContain(SettingsActions.settingsEdited.type);
    expect(types).not.toContain(NoticeActions.noticeShown.type);
  });
});
