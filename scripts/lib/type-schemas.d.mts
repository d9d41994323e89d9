import type { CompilerOptions } from 'typescript';

export class TypeSchemas {
  constructor(entry: string, options: CompilerOptions, folder: string, base: string);
  of(name: string): { $ref: string };
  all(): Record<string, object>;
}
