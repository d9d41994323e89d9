import type { Problem } from '../problem';

type Rule = { path: RegExp; refuses: (value: unknown) => boolean };

/** What the format defines but Folvex does not do yet. Each entry goes when its feature comes. */
const RULES: readonly Rule[] = [
  { path: /^recipes\[\d+\]\.text$/, refuses: (value) => value === 'outlines' || value === 'picture' },
];

/** A problem for each value of a job file that the format allows but this version cannot do. */
export function unsupportedIn(job: unknown): Problem[] {
  const problems: Problem[] = [];
  visit(job, '', (path, value) => {
    if (!RULES.some((rule) => rule.path.test(path) && rule.refuses(value))) return;
    const sentence = `${path} is part of the format but not yet supported; take it out.`;
    problems.push({ code: 'job.unsupported', sentence, place: { path } });
  });
  return problems;
}

function visit(value: unknown, path: string, look: (path: string, value: unknown) => void): void {
  if (path) look(path, value);
  if (Array.isArray(value)) value.forEach((item, i) => visit(item, `${path}[${i}]`, look));
  else if (typeof value === 'object' && value !== null) {
    for (const [key, item] of Object.entries(value)) visit(item, path ? `${path}.${key}` : key, look);
  }
}
