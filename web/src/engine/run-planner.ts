import type { SheetFacts } from '@folvex/contract';
import { checkRun, draftPlots, plannedPages, prepareRun, type PreparedRun, type PublishingFacts } from '@folvex/core';
import type { CheckedRun, PlanEngine, PlannedRun, SeenChange, SeenOfRun } from './plan-protocol';

/** The engine behind `plan.worker`. */
export class RunPlanner implements PlanEngine {
  private facts: Partial<PublishingFacts> = {};
  private prepared: PreparedRun | undefined;
  private seen: Omit<SeenOfRun, 'pages'> = {};
  /** The last answer of `check`. */
  private told = '';
  private readonly pages = new Map<string, SheetFacts>();

  plan(changed: Partial<PublishingFacts>): PlannedRun {
    this.facts = { ...this.facts, ...changed };
    const prepared = prepareRun(this.facts as PublishingFacts);
    this.prepared = prepared;
    const { plan, destinations, input } = prepared;
    const words = new Map(input.sheets.map(({ id, number, title }) => [id, `${number}  ${title}`]));
    const files = plan.files.map(({ path, format, sheets }) => ({
      path,
      ...(format && { format }),
      pages: sheets.map((id) => words.get(id) ?? id),
    }));
    return { files, destinations, pages: plannedPages(prepared), packageId: input.package.id };
  }

  check({ pages, ...changed }: SeenChange): CheckedRun | null {
    for (const [id, facts] of pages.changed) this.pages.set(id, facts);
    for (const id of pages.gone) this.pages.delete(id);
    this.seen = { ...this.seen, ...changed };
    if (!this.prepared) return null;
    const findings = checkRun(this.prepared, { ...this.seen, pages: this.pages });
    const plots = draftPlots(this.prepared, { pages: this.pages });
    const checked = { packageId: this.prepared.input.package.id, findings, plots };
    // Thousands of findings take the page a while to receive, and mostly they are the same as before.
    const told = JSON.stringify(checked);
    if (told === this.told) return null;
    this.told = told;
    return checked;
  }
}
