import type { FrameKind } from '../paper/frame';
import type { FrameMark } from '../paper/grid';
import type { PaperChoice } from '../paper/sizes';
import { sameValue } from '../same';
import type { Sheet } from './model';

export interface Group {
  id: string;
  name: string;
  /** What its sheets have unless they deviate; absent: no settings. */
  sheets?: GroupSettings;
}

/** The settings that a group gives its sheets; what is absent is each sheet's own. */
export interface GroupSettings {
  paper?: PaperChoice;
  frame?: FrameKind;
  marks?: FrameMark[];
  /** Id of the title-block template. */
  template?: string;
}

export type GroupSetting = keyof GroupSettings;

/** In what a sheet deviates from its group. Sheets that take a layout over have nothing of their own to compare. */
export function deviationsOf(sheet: Sheet, group: Group | undefined): GroupSetting[] {
  const settings = group?.sheets;
  if (!settings || sheet.from) return [];
  const own = inOrder(settingsOf(sheet));
  const said = inOrder(settings);
  return (Object.keys(said) as GroupSetting[]).filter(
    (key) => said[key] !== undefined && !sameValue(own[key], said[key]),
  );
}

/** What a group would say to have sheets such as this one. */
export function settingsOf({ paper, frame, marks, titleBlock }: Sheet): GroupSettings {
  return {
    ...(paper && { paper }),
    frame,
    marks: marks ?? [],
    ...(titleBlock && { template: titleBlock.template ?? 'corner' }),
  };
}

/** The order in which marks are listed is of no account. */
function inOrder(settings: GroupSettings): GroupSettings {
  return settings.marks ? { ...settings, marks: [...settings.marks].sort() } : settings;
}
