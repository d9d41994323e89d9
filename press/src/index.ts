export * from './assemble';
export type * from './assemble-to-file';
export * from './drawings';
export * from './files';
export * from './fonts';
export * from './inspect';
export * from './make-sheet';
export * from './pool';
export * from './tools';
