export * from './plot-queue';
export * from './plotter';
