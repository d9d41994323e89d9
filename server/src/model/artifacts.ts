import type { ComposedFacts } from '@folvex/core';
import type { ExtraFormatFile as WrittenFile } from '@folvex/press';

/** A file that was written of a sheet in a format other than PDF, and is in the store. */
export type ExtraFormatFile = Omit<WrittenFile, 'temporary' | 'pictures'> & { pictures?: LinkedPicture[] };

/** A picture that such a file links to, in the store too. */
export type LinkedPicture = Omit<NonNullable<WrittenFile['pictures']>[number], 'temporary'>;

/** The results of a sheet of a run: its part of PDFs, and its files in other formats. */
export interface SheetFiles {
  part: string;
  facts: ComposedFacts;
  extraFormats: ExtraFormatFile[];
}

/** What is known of an artifact without reading it. */
export type ArtifactFacts = { page: ComposedFacts } | { file: ExtraFormatFile };
