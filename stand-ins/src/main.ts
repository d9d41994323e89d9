import { mediaIn } from '@folvex/core';
import { startMailbox } from './mailbox';
import { startPlotter } from './plotter';

const [PLOTTER_PORT, MAIL_PORT, MAILBOX_PORT] = [4791, 4792, 4793];
/** About as fast as plotters are with lines, mm/s. */
const SPEED = 50;
/** So little that it runs out in a large job. */
const ROLL_MM = 8000;

const media = mediaIn('610, 914, A3').media.map((medium) => ({ ...medium, leftMm: ROLL_MM }));
const plotter = await startPlotter({ port: PLOTTER_PORT, name: 'Stand-in plotter', media, mmPerSecond: SPEED });
const mailbox = await startMailbox({ port: MAIL_PORT, pagePort: MAILBOX_PORT });
console.log(`A plotter answers at ${plotter.address}; its page is http://127.0.0.1:${PLOTTER_PORT}/`);
console.log(`A mail server answers at ${mailbox.address}; its mailbox is ${mailbox.page}`);
const stop = (): void => void Promise.all([plotter.stop(), mailbox.stop()]).then(() => process.exit(0));
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
