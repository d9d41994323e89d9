import { mediaIn } from '@folvex/core';
import { startPlotter } from './plotter';

const PORT = 4791;
/** About as fast as plotters are with lines, mm/s. */
const SPEED = 50;
/** So little that it runs out in a large job. */
const ROLL_MM = 8000;

const media = mediaIn('610, 914, A3').media.map((medium) => ({ ...medium, leftMm: ROLL_MM }));
const plotter = await startPlotter({ port: PORT, name: 'Stand-in plotter', media, mmPerSecond: SPEED });
console.log(
  `A plotter answers at ${plotter.address}; http://127.0.0.1:${PORT} shows its paper, its queue and what came out.`,
);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => void plotter.stop().then(() => process.exit(0)));
