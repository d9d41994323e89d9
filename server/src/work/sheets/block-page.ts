import type { SheetFacts } from '@folvex/contract';
import {
  blockBox,
  box,
  excerpt,
  frameBox,
  packPage,
  PageBuilder,
  templateOf,
  unpackPage,
  type ProjectFacts,
  type Sheet,
} from '@folvex/core';
import { notFound } from '../../errors';
import type { Services } from '../services';
import { pageOf } from './sheet-page';

/** The title block alone of a sheet as it comes out with a template: a packed page of its size. */
export async function blockPage(
  services: Services,
  projectId: string,
  sheet: Sheet,
  templateId: string,
  project: ProjectFacts,
): Promise<Buffer> {
  const template = templateOf(project, { template: templateId });
  if (!template) throw notFound('The title block');
  const shown = { ...sheet, titleBlock: { template: templateId, fields: sheet.titleBlock?.fields ?? {} } };
  const { page, facts } = await pageOf(services, projectId, shown);
  const { paper } = JSON.parse((await services.store.read(facts)).toString()) as SheetFacts;
  const area = blockBox(template, frameBox(paper, sheet.frame, sheet.margins));
  const ground = new PageBuilder(box.width(area), box.height(area)).build();
  return Buffer.from(
    packPage(excerpt(unpackPage(new Uint8Array(await services.store.read(page))), area, [0, 0], ground)),
  );
}
