import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { buildNode, DIST, ROOT } from './build-node.mjs';

await buildNode();
const { drawDemo } = await import(pathToFileURL(join(DIST, 'draw-demo.mjs')).href);
drawDemo(join(ROOT, 'demo'));
