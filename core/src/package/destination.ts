import { legalPath } from '../naming/legal';
import { applyRule, parseRule } from '../naming/rule';
import type { Outcome } from '../problem';
import { fieldsOf, withoutSlashes } from './fields';
import type { PlanInput } from './plan';

/** The folder that a package is delivered to, with slashes; undefined where it is not delivered. */
export function destinationFolder({
  package: pack,
  project,
  runDate,
}: Pick<PlanInput, 'package' | 'project' | 'runDate'>): Outcome<string> | undefined {
  if (!pack.destination) return undefined;
  const rule = parseRule(pack.destination.folder);
  if (!rule.ok) return rule;
  const fields = withoutSlashes(fieldsOf({ project, package: pack, runDate, pages: pack.order.length }));
  return { ok: true, value: legalPath(applyRule(rule.value, fields, 'skip').name) };
}

/** A path with a number behind its name, before the extension: "A-101 (2).pdf". */
export function numberedPath(path: string, number: number): string {
  const dot = path.lastIndexOf('.');
  const [stem, extension] = dot > path.lastIndexOf('/') ? [path.slice(0, dot), path.slice(dot)] : [path, ''];
  return `${stem} (${number})${extension}`;
}
