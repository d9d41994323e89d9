import type { ProjectNews } from '@folvex/contract';

/** What the server tells a window of a project in which nothing happened, with some of it otherwise. */
export function news(of: Partial<ProjectNews> = {}): ProjectNews {
  return { people: [], latestRuns: [], arrivalsChangedAt: null, ...of };
}
