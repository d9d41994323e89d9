import { path, ROUTES, type DrawingInfo } from '@folvex/contract';
import type { PageSource } from '../engine/engine';

/** The small picture of a drawing's model. */
export function miniatureOf({ id, hash }: DrawingInfo): PageSource {
  return { url: path(ROUTES.miniature, { drawing: id }), version: hash };
}
