import type { PageLayer } from '../page/page';

/**
 * Objects of a PDF, ready to be taken into any file: the first is what is wanted, the others what it refers to.
 * References between them are in the bodies by index, between two control characters.
 */
export interface ForeignObjects {
  /** The same key means the same objects, of which a file needs one copy only. */
  key: string;
  objects: ForeignObject[];
}

/** An object's text, with its stream where it is one; or a layer, whose object the file has of its own. */
export type ForeignObject = { body: string; stream?: Uint8Array } | { layer: PageLayer };

/** A reference to the n-th object, as it is written in a body. Neither character occurs there otherwise. */
export function foreignReference(index: number): string {
  return `\u0001${index}\u0002`;
}

/** A body with its references filled in. */
export function withNumbers(body: string, numbers: readonly number[]): string {
  return body.replace(/\u0001(\d+)\u0002/g, (_, index: string) => `${numbers[Number(index)]} 0 R`);
}
