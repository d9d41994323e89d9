import { createHash } from 'node:crypto';
import {
  PdfDocument,
  type DocumentFacts,
  type PdfTools,
  type PlannedFile,
  type ProjectFacts,
  type Sheet,
  type SheetPackage,
  type SheetPart,
  type Sink,
} from '@folvex/core';

/** One file of a run: which it is, and where its pages come from. */
export interface AssemblyInput {
  project: ProjectFacts;
  package: SheetPackage;
  sheets: readonly Sheet[];
  file: PlannedFile;
  /** SHA-256 of a sheet's packed part. */
  partHash(sheetId: string): string;
  /** The parts of a sheet, one a page; asked for one sheet at a time and not kept. */
  parts(sheetId: string): SheetPart[];
}

const PRODUCER = 'Folvex';

/** Puts the parts of a file together, page by page, into a sink. Returns its length in bytes and how many pages it has. */
export function assembleFile(input: AssemblyInput, tools: PdfTools, sink: Sink): { bytes: number; pages: number } {
  const sheets = input.file.sheets.flatMap((id) => input.sheets.find((sheet) => sheet.id === id) ?? []);
  const document = new PdfDocument(sink, tools, factsOf(input, sheets));
  let pages = 0;
  for (const { id, number, title } of sheets) {
    const parts = input.parts(id);
    parts.forEach((part, i) => {
      document.addPage(part, { number: parts.length > 1 ? `${number} (${i + 1}/${parts.length})` : number, title });
    });
    pages += parts.length;
  }
  return { bytes: document.finish(), pages };
}

/** What the file says of itself; all of it follows from its content, so that the same input gives the same bytes. */
function factsOf(input: AssemblyInput, sheets: readonly Sheet[]): DocumentFacts {
  const { project, package: pack } = input;
  const only = sheets.length === 1 ? sheets[0] : undefined;
  const title = only ? `${only.number} ${only.title}`.trim() : `${project.name} - ${pack.name}`;
  const date =
    sheets
      .map((sheet) => sheet.revision?.date ?? '')
      .sort()
      .at(-1) ?? '';
  const hash = createHash('sha256').update(title);
  for (const sheet of sheets) hash.update(input.partHash(sheet.id));
  return {
    title,
    author: project.fields['owner'] ?? '',
    producer: PRODUCER,
    date,
    id: hash.digest('hex').slice(0, 32).toUpperCase(),
  };
}
