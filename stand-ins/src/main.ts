import { mediaIn } from '@folvex/core';
import { startMailbox } from './mailbox';
import { startPlotter } from './plotter';
import { startTransferServers } from './transfer/transfer-servers';

const [PLOTTER_PORT, MAIL_PORT, MAILBOX_PORT] = [4791, 4792, 4793];
/** About as fast as plotters are with lines, mm/s. */
const SPEED = 50;
/** So little that it runs out in a large job. */
const ROLL_MM = 8000;

const media = mediaIn('610, 914, A3').media.map((medium) => ({ ...medium, leftMm: ROLL_MM }));
const plotter = await startPlotter({ port: PLOTTER_PORT, name: 'Stand-in plotter', media, mmPerSecond: SPEED });
const mailbox = await startMailbox({ port: MAIL_PORT, pagePort: MAILBOX_PORT });
const transfer = await startTransferServers(process.env['FOLVEX_STAND_INS'] ?? '.folvex-stand-ins');
console.log(`A plotter answers at ${plotter.address}; its page is http://127.0.0.1:${PLOTTER_PORT}/`);
console.log(`A mail server answers at ${mailbox.address}; its mailbox is ${mailbox.page}`);
for (const { name, server } of transfer.shares) console.log(`${name} answers at ${server.address}`);
console.log(`The page of the transfer servers is ${transfer.page}`);
const stop = (): void => {
  void Promise.all([plotter.stop(), mailbox.stop(), transfer.stop()]).then(() => process.exit(0));
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
