export * from './mailbox';
export * from './plot-queue';
export * from './plotter';
