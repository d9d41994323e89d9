/** Rules that offices often use, to begin from. */
export const NAME_PRESETS: readonly { words: string; rule: string }[] = [
  { words: 'Number and title', rule: '[sheet.number] [sheet.title]' },
  { words: 'Number and revision', rule: '[sheet.number]_[sheet.revision]' },
  { words: 'Project number in front', rule: '[project.number] [sheet.number] [sheet.title]' },
  {
    // Container id of the UK's National Annex to ISO 19650-2 (NA.2.2: project, originator, functional and spatial
    // breakdown, form, discipline, number; from memory). The fields are of the office's own.
    words: 'Container id, ISO 19650-2',
    rule: '[project.number]-[project.originator]-[project.functional]-[sheet.spatial]-[sheet.form]-[sheet.discipline]-[sheet.number]',
  },
];
