import { paperNames, templatesOf, type Group, type Orientation, type ProjectFacts, type Sheet } from '@folvex/core';
import * as yup from 'yup';
import { scaleSchema, type SheetFields } from '@folvex/contract';
import type { Choosable } from '../../forms/choice-field';
import { problemWith } from '../../forms/yup-validator';
import { FRAMES, optionsByName } from '../../ui/choices';
import { paperChoiceInWords, today } from '../../ui/words';
import type { ListColumn, SheetRow } from './list-cells';

/** What changes sheets. */
export interface CellEdits {
  set(sheet: Sheet, fields: Partial<SheetFields>): void;
  setField(sheet: Sheet, name: string, value: string): void;
  revise(sheet: Sheet, index: string, date: string): void;
  rescale(id: string, scale: string): void;
}

/** Several scales are shown in one cell as they are; what is typed is one. */
const oneScale = scaleSchema('fit');
const cellScale = yup.string().test('scale', (text = '', context) => {
  const message = text.includes(', ') ? undefined : problemWith(oneScale, text);
  return message === undefined || context.createError({ message });
});
const numberSchema = yup.string().matches(/\S/, 'A sheet needs a number.');
const ofOwn = ({ sheet }: SheetRow): boolean => !sheet.from;

/** The columns of the list: those of every project, then the fields of its own. */
export function listColumns(
  project: Pick<ProjectFacts, 'papers' | 'sheetFields' | 'titleBlocks'>,
  groups: readonly Group[],
  make: CellEdits,
): readonly ListColumn[] {
  const templates = templatesOf(project);
  return [
    {
      ...{ key: 'number', heading: 'Number', kind: 'text', schema: numberSchema },
      shown: ({ sheet }) => sheet.number,
      edit: (sheet, value) => make.set(sheet, { number: value.trim() }),
    },
    {
      ...{ key: 'title', heading: 'Title', kind: 'text' },
      shown: ({ sheet }) => sheet.title,
      edit: (sheet, value) => make.set(sheet, { title: value.trim() }),
    },
    {
      ...{ key: 'group', heading: 'Group', kind: 'choice' },
      options: [{ value: '', words: 'No group' }, ...optionsByName(groups)],
      shown: ({ group }) => group,
      value: ({ sheet }) => sheet.group,
      edit: (sheet, value) => make.set(sheet, { group: value }),
    },
    {
      ...{ key: 'paper', heading: 'Paper', kind: 'choice' },
      options: papersOf(project),
      shown: ({ paper }) => paper,
      value: ({ sheet: { paper } }) => (paper && 'name' in paper ? `${paper.name}|${paper.orientation}` : ''),
      editable: ofOwn,
      edit: (sheet, value) => {
        const [name, orientation] = value.split('|') as [string, Orientation];
        make.set(sheet, { paper: { name, orientation } });
      },
    },
    {
      ...{ key: 'scale', heading: 'Scale', kind: 'text', schema: cellScale },
      shown: ({ scale }) => scale,
      editable: ofOwn,
      edit: ({ id }, scale) => make.rescale(id, scale.trim()),
    },
    {
      ...{ key: 'revision', heading: 'Rev.', kind: 'text' },
      shown: ({ sheet }) => sheet.revision?.index ?? '',
      edit: (sheet, value) => make.revise(sheet, value.trim(), sheet.revision?.date || today()),
    },
    {
      ...{ key: 'date', heading: 'Date', kind: 'date' },
      shown: ({ sheet }) => sheet.revision?.date ?? '',
      editable: ({ sheet }) => sheet.revision !== undefined,
      edit: (sheet, value) => make.revise(sheet, sheet.revision!.index, value || today()),
    },
    {
      ...{ key: 'template', heading: 'Title block', kind: 'choice' },
      options: [{ value: '', words: 'none' }, ...optionsByName(templates)],
      shown: ({ sheet, template }) =>
        sheet.from ? 'as its layout' : (templates.find(({ id }) => id === template)?.name ?? ''),
      value: ({ template }) => template,
      editable: ofOwn,
      edit: (sheet, template) =>
        make.set(sheet, { titleBlock: template ? { template, fields: sheet.titleBlock?.fields ?? {} } : null }),
    },
    {
      ...{ key: 'frame', heading: 'Frame', kind: 'choice', options: FRAMES },
      shown: ({ sheet }) => (sheet.from ? 'as its layout' : FRAMES.find(({ value }) => value === sheet.frame)!.words),
      value: ({ sheet }) => sheet.frame,
      editable: ofOwn,
      edit: (sheet, frame) => make.set(sheet, { frame: frame as Sheet['frame'] }),
    },
    ...(project.sheetFields ?? []).map((field): ListColumn => ({
      ...{ key: `own ${field.name}`, heading: field.caption, kind: field.kind },
      options: [{ value: '', words: 'none' }, ...(field.choices ?? []).map((one) => ({ value: one, words: one }))],
      shown: ({ sheet }) => sheet.fields?.[field.name] ?? '',
      edit: (sheet, value) => make.setField(sheet, field.name, value.trim()),
    })),
  ];
}

function papersOf({ papers }: Pick<ProjectFacts, 'papers'>): Choosable<string>[] {
  const names = paperNames(papers);
  return (['landscape', 'portrait'] as const).flatMap((orientation) =>
    names.map((name) => ({ value: `${name}|${orientation}`, words: paperChoiceInWords({ name, orientation }) })),
  );
}
