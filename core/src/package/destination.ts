import { legalPath } from '../naming/legal';
import { applyRule, parseRule } from '../naming/rule';
import type { Outcome } from '../problem';
import { hasFields, type Setting } from '../settings/descriptor';
import { DESTINATION_KINDS, type Destination } from './destination-kinds';
import { fieldsOf, withoutSlashes } from './fields';
import { recipientsIn } from './mail';
import type { PlanInput, TakenPaths } from './plan';

type Facts = Pick<PlanInput, 'package' | 'project' | 'runDate'>;

/** Where a package is delivered to, with its rules resolved; none where it is downloaded. */
export function resolveDestinations(facts: Facts): Outcome<Destination>[] {
  return (facts.package.destinations ?? []).map((destination) => resolveDestination(destination, facts));
}

/**
 * A destination with its rules resolved, those for folders to paths with slashes, and people to their addresses; a problem
 * where a rule cannot be read.
 */
export function resolveDestination(
  destination: Destination,
  { package: pack, project, runDate }: Facts,
): Outcome<Destination> {
  const settings: readonly Setting[] = DESTINATION_KINDS[destination.kind].settings;
  const fields = fieldsOf({ project, package: pack, runDate, pages: pack.order.length });
  const resolved: Record<string, unknown> = { ...destination };
  for (const setting of settings) {
    if (!hasFields(setting)) continue;
    const rule = parseRule(String(resolved[setting.key] ?? ''));
    if (!rule.ok) return rule;
    resolved[setting.key] =
      setting.format === 'rule'
        ? legalPath(applyRule(rule.value, withoutSlashes(fields), 'skip').name)
        : applyRule(rule.value, fields, 'skip').name;
  }
  if (destination.kind === 'mail') {
    const { addresses, unknown } = recipientsIn(destination.to, project.people);
    resolved['to'] = [...addresses, ...unknown].join(', ');
  }
  return { ok: true, value: resolved as unknown as Destination };
}

/** The paths that are taken at a destination, from what was found there. */
export function takenPaths({
  paths,
  numbered = {},
}: {
  paths: readonly string[];
  numbered?: Record<string, string>;
}): TakenPaths {
  return new Map(paths.map((path) => [path, numbered[path]]));
}

/** A path with a number or a date after its name, before the extension: "A-101 (2).pdf". */
export function markedPath(path: string, mark: number | string): string {
  const dot = path.lastIndexOf('.');
  const [stem, extension] = dot > path.lastIndexOf('/') ? [path.slice(0, dot), path.slice(dot)] : [path, ''];
  return `${stem} (${mark})${extension}`;
}
