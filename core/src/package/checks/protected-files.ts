import { defineCheck } from '../finding';

/** Why files of a version of PDF cannot be protected. ISO 19005-2, 6.1.3: PDF/A files are not encrypted. */
const REASONS: Readonly<Record<string, string>> = {
  '1.4': 'PDF 1.4, which cannot be protected safely',
  'A-2b': 'PDF/A, which must stay open',
};

/** Passwords together with a version of PDF that cannot have them, or with files that stay open. */
export const protectedFiles = defineCheck(
  {
    'file.protected': ['stop', 'passwords for files of a version of PDF that cannot have them'],
    'file.open-formats': ['warning', 'a protected run that also writes formats which cannot have passwords'],
  },
  ({ recipe, isProtected }, { files }) => {
    if (!isProtected) return [];
    const why = recipe && REASONS[recipe.version ?? ''];
    const stop = `The recipe ${recipe?.name} writes ${why}; remove the passwords, or choose another recipe.`;
    const open = [...new Set(files.flatMap(({ format }) => format?.toUpperCase() ?? []))];
    const warning = `Anybody can open the ${open.join(', ')} files of this run: only PDF files get passwords.`;
    return [
      ...(why ? [{ code: 'file.protected' as const, sentence: stop, place: {} }] : []),
      ...(open.length > 0 ? [{ code: 'file.open-formats' as const, sentence: warning, place: {} }] : []),
    ];
  },
);
