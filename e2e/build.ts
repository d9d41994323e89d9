import { ensureNodeBuild } from '../scripts/build-node.mjs';
import { ensureWebBuild } from '../scripts/lib/build-web.mjs';

/** Builds what is out of date, once for all instances. */
export default async function build(): Promise<void> {
  await ensureNodeBuild();
  await ensureWebBuild();
}
