export * from './access';
export * from './drawing-payloads';
export * from './payloads';
export * from './routes';
export * from './schemas';
export * from './run-settled';
export * from './package-change';
export * from './settings-change';
