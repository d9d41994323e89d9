import type { FrameKind } from '../paper/frame';
import type { FrameMark } from '../paper/grid';
import type { PaperChoice, Sheet } from './model';

export interface Group {
  id: string;
  name: string;
  /** What its sheets have unless they deviate; absent: nothing is said. */
  sheets?: GroupSettings;
}

/** What a group says of its sheets; what is absent is each sheet's own. */
export interface GroupSettings {
  paper?: PaperChoice;
  frame?: FrameKind;
  marks?: FrameMark[];
  /** Id of the title-block template. */
  template?: string;
}

export type GroupSetting = keyof GroupSettings;

/** In what a sheet is not as its group says. Sheets that take a layout over have nothing of their own to compare. */
export function deviationsOf(sheet: Sheet, group: Group | undefined): GroupSetting[] {
  const settings = group?.sheets;
  if (!settings || sheet.from) return [];
  const own: GroupSettings = settingsOf(sheet);
  return (Object.keys(settings) as GroupSetting[]).filter(
    (key) => settings[key] !== undefined && JSON.stringify(sorted(own[key])) !== JSON.stringify(sorted(settings[key])),
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

/** A value whose order of keys or entries is of no account. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.every((one) => typeof one === 'string') ? [...value].sort() : value;
  if (typeof value !== 'object' || value === null) return value ?? null;
  return Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
}
