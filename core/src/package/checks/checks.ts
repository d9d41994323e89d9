import type { OutputPlan, PlanInput } from '../plan';
import { blankFields } from './blank-fields';
import { changedNames } from './changed-names';
import { cutViews } from './cut-views';
import { danglingMarks } from './dangling-marks';
import { danglingTexts } from './dangling-texts';
import { emptySheets } from './empty-sheets';
import type { Check, Finding, Severity } from './finding';
import { giantPages } from './giant-pages';
import { largePictures } from './large-pictures';
import { missingFiles } from './missing-files';
import { missingGlyphs } from './missing-glyphs';
import { missingRevisions } from './missing-revisions';
import { mixedPapers } from './mixed-papers';
import { nameClashes } from './name-clashes';
import { numberGaps } from './number-gaps';
import { oddScales } from './odd-scales';
import { oldRevisions } from './old-revisions';
import { outOfDateViews } from './out-of-date';
import { outsidePrintable } from './outside-printable';
import { overFrame } from './over-frame';
import { overlappingViews } from './overlapping-views';
import { saidOtherwise } from './said-otherwise';
import { picturesLeftOut } from './pictures-left-out';
import { resizedPages } from './resized-pages';
import { sheetFields } from './sheet-fields';
import { sheetsPresent } from './sheets-present';
import { smallTexts } from './small-texts';
import { thinLines } from './thin-lines';
import { tiles } from './tiles';
import { titleBlocks } from './title-block';
import { unnumbered } from './unnumbered';
import { unusedSheets } from './unused-sheets';
import { wouldReplace } from './would-replace';

/** Every check, in the order in which findings are told. docs/checks.md lists them. */
const CHECKS: readonly Check[] = [
  sheetsPresent,
  tiles,
  resizedPages,
  blankFields,
  nameClashes,
  changedNames,
  wouldReplace,
  giantPages,
  largePictures,
  outOfDateViews,
  emptySheets,
  cutViews,
  outsidePrintable,
  overFrame,
  unnumbered,
  missingRevisions,
  oldRevisions,
  titleBlocks,
  sheetFields,
  saidOtherwise,
  danglingMarks,
  danglingTexts,
  missingFiles,
  missingGlyphs,
  oddScales,
  overlappingViews,
  smallTexts,
  thinLines,
  picturesLeftOut,
  numberGaps,
  mixedPapers,
  unusedSheets,
];

const RANK: Readonly<Record<Severity, number>> = { stop: 0, warning: 1, note: 2 };

/** What identifies a finding among those that somebody lets be: the same again is the same. */
export function findingKey({ code, sentence }: Pick<Finding, 'code' | 'sentence'>): string {
  return `${code}\n${sentence}`;
}

/**
 * Examines a package and its plan before a run; stops first. The same sentence is told once. A project may weigh codes
 * otherwise, and a package let findings be that are no stops: those come last, with the reason.
 */
export function runChecks(input: PlanInput, plan: OutputPlan): Finding[] {
  const rules = plan.problems.map((problem): Finding => ({ ...problem, severity: 'stop' }));
  const found = [...rules, ...CHECKS.flatMap((check) => check(input, plan))];
  const unique = new Map(found.map((finding) => [findingKey(finding), finding]));
  const accepted = new Map((input.package.accepted ?? []).map(({ finding, reason }) => [finding, reason]));
  return [...unique.values()]
    .flatMap((finding): Finding[] => {
      const weight = finding.severity === 'stop' ? undefined : input.project.checks?.[finding.code];
      if (weight === 'off') return [];
      const weighed = weight ? { ...finding, severity: weight } : finding;
      const reason = weighed.severity === 'stop' ? undefined : accepted.get(findingKey(finding));
      return [reason === undefined ? weighed : { ...weighed, accepted: reason }];
    })
    .sort((a, b) => rankOf(a) - rankOf(b));
}

export function hasStop(findings: readonly Finding[]): boolean {
  return findings.some((finding) => finding.severity === 'stop');
}

function rankOf({ severity, accepted }: Finding): number {
  return accepted === undefined ? RANK[severity] : RANK.note + 1;
}
