import {
  checkRun,
  extraFormatsOf,
  formatOptions,
  hasStop,
  joinedPath,
  preparedSheets,
  type ExtraFormat,
  type Finding,
  type JobFile,
  type Outcome,
  type PlannedFile,
  type PreparedRun,
  type Problem,
} from '@folvex/core';
import { deliver, folderDestination, type Lock, type MadeSheet, type Press } from '@folvex/press';
import { taskOf, type JobFiles } from './sheet-task';

/** What became of one file. */
export interface FileReport {
  path: string;
  /** Absent: PDF. */
  format?: ExtraFormat;
  /** The sheets in it, by their ids. */
  sheets: string[];
  pages: number;
  bytes: number;
  /** Time spent on its sheets and on assembling it. */
  milliseconds: number;
  sha256: string;
  outcome: 'written' | 'unchanged' | 'failed' | 'refused';
  problems: Problem[];
}

export interface PublishInput {
  job: JobFile;
  prepared: PreparedRun;
  files: JobFiles;
  out: string;
  replace: boolean;
  /** What the files are protected by; absent: nothing. */
  lock?: Lock;
  press: Press;
  /** Folder of unfinished files. */
  work: string;
  /** Called with every finding of the composed sheets, before any file is written. */
  checked(findings: Finding[]): void;
  /** Called as each file is done, in the order of the plan. */
  done(report: FileReport): void;
  warn(problem: Problem): void;
}

type MadeSheets = ReadonlyMap<string, Outcome<MadeSheet>>;

/**
 * Makes every sheet of a plan, checks how they came out, and then writes the files; none where a check stops the run.
 * A sheet that fails takes only its own files with it.
 */
export async function publishFiles(input: PublishInput): Promise<FileReport[]> {
  const made = await makeSheets(input);
  const pages = new Map([...made].flatMap(([id, sheet]) => (sheet.ok ? [[id, sheet.value.facts] as const] : [])));
  const findings = checkRun(input.prepared, { pages });
  input.checked(findings);
  if (hasStop(findings)) return [];
  const reports: FileReport[] = [];
  for (const file of input.prepared.plan.files) {
    const written = file.format
      ? await writeExtraFormat(input, file, file.format, made)
      : [await writePdf(input, file, made)];
    // Sheets in one folder share their pictures.
    for (const report of written.filter(({ path }) => !reports.some((other) => other.path === path))) {
      reports.push(report);
      input.done(report);
    }
  }
  return reports;
}

/** Makes every sheet, as a part of PDFs and in its other formats at once; as many side by side as the press has threads. */
async function makeSheets({ prepared, files, press, work, warn }: PublishInput): Promise<MadeSheets> {
  const { package: pack } = prepared.input;
  const made = await Promise.all(
    preparedSheets(prepared.input).map(async (sheet) => {
      const result = await press.makeSheet({
        ...taskOf(prepared, sheet, files),
        part: true,
        formats: extraFormatsOf(pack, sheet.id),
        options: formatOptions(pack),
        folder: work,
      });
      return [sheet.id, result] as const;
    }),
  );
  for (const [, sheet] of made) if (sheet.ok) sheet.value.warnings.forEach(warn);
  return new Map(made);
}

async function writeExtraFormat(
  input: PublishInput,
  file: PlannedFile,
  format: ExtraFormat,
  sheets: MadeSheets,
): Promise<FileReport[]> {
  const report: FileReport = { ...emptyReport(file), pages: 1 };
  const made = sheets.get(file.sheets[0]!)!;
  if (!made.ok) return [{ ...report, problems: [made.problem] }];
  const found = made.value.extraFormats.find((one) => one.format === format)!;
  const facts = { bytes: found.bytes, sha256: found.hash, milliseconds: Math.round(made.value.milliseconds) };
  const reports: FileReport[] = [{ ...report, ...facts, ...(await placed(input, file.path, found)) }];
  for (const picture of found.pictures ?? []) {
    const path = joinedPath(file.path, picture.name);
    const own = { ...report, path, bytes: picture.bytes, sha256: picture.hash };
    reports.push({ ...own, ...(await placed(input, path, picture)) });
  }
  return reports;
}

async function writePdf(input: PublishInput, file: PlannedFile, sheets: MadeSheets): Promise<FileReport> {
  const report = emptyReport(file);
  const made = file.sheets.map((id) => [id, sheets.get(id)!] as const);
  const problems = made.flatMap(([, sheet]) => (sheet.ok ? [] : [sheet.problem]));
  if (problems.length > 0) return { ...report, problems };
  const { project, package: pack, groups, recipe, sheets: all } = input.prepared.input;
  const parts = made.flatMap(([id, sheet]) => {
    const part = sheet.ok ? sheet.value.part : undefined;
    return part ? [[id, { path: part.temporary, hash: part.hash }] as const] : [];
  });
  try {
    const assembled = await input.press.assemble({
      ...{ project, package: pack, groups: [...groups], recipe, file },
      sheets: all.filter(({ id }) => file.sheets.includes(id)),
      plan: { files: input.prepared.plan.files, sheets: preparedSheets(input.prepared.input) },
      ...(input.lock && { lock: input.lock }),
      parts: Object.fromEntries(parts),
      typefaces: input.files.typefaces,
      folder: input.work,
    });
    const { bytes, pages, hash, milliseconds } = assembled;
    const making = made.reduce((sum, [, sheet]) => sum + (sheet.ok ? sheet.value.milliseconds : 0), milliseconds);
    const facts = { pages, bytes, sha256: hash, milliseconds: Math.round(making) };
    return { ...report, ...facts, ...(await placed(input, file.path, assembled)) };
  } catch (error) {
    const sentence = `${file.path} could not be written (${(error as Error).message}); make sure that the folder is there and has room.`;
    return { ...report, problems: [{ code: 'file.write', sentence, place: { file: file.path } }] };
  }
}

function emptyReport({ path, format, sheets }: PlannedFile): FileReport {
  const content = { path, ...(format && { format }), sheets, pages: sheets.length };
  return { ...content, bytes: 0, milliseconds: 0, sha256: '', outcome: 'failed', problems: [] };
}

/** Gives a finished file its place, unless another one has its name. */
async function placed(
  { out, replace }: PublishInput,
  path: string,
  { temporary, hash }: { temporary: string; hash: string },
): Promise<Pick<FileReport, 'outcome' | 'problems'>> {
  const file = { from: temporary, hash, path };
  const delivered = await deliver(folderDestination(out), file, replace ? 'replace' : 'stop');
  if (!('problem' in delivered)) {
    return { outcome: delivered.how === 'there already' ? 'unchanged' : 'written', problems: [] };
  }
  const { problem } = delivered;
  if (problem.code !== 'destination.conflict') return { outcome: 'failed', problems: [problem] };
  const sentence = `${path} is there already and differs; choose another folder, or use --replace.`;
  return { outcome: 'refused', problems: [{ code: 'file.exists', sentence, place: { file: path } }] };
}
