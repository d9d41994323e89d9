#!/usr/bin/env node
// Builds on first use and after a change, so that the command works straight from a clone.
import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { DIST, ensureNodeBuild } from '../../scripts/build-node.mjs';

await ensureNodeBuild();
const { main } = await import(pathToFileURL(join(DIST, 'folvex.mjs')).href);
// Imported late: publishing needs no database.
const maintain = async (...args) => (await import('../../scripts/maintain.mjs')).maintain(...args);
process.exitCode = await main(process.argv.slice(2), maintain);
