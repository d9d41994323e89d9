export * from './payloads';
export * from './routes';
export * from './schemas';
export * from './told';
export * from './package-change';
