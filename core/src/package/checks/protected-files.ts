import { defineCheck } from '../finding';

/** Why files of a version of PDF cannot be protected. ISO 19005-2, 6.1.3: PDF/A files are not encrypted. */
const REASONS: Readonly<Record<string, string>> = {
  '1.4': 'PDF 1.4, which cannot be protected safely',
  'A-2b': 'PDF/A, which must stay open',
};

/** Passwords together with a version of PDF that cannot have them. */
export const protectedFiles = defineCheck(
  {
    'file.protected': ['stop', 'passwords for files of a version of PDF that cannot have them'],
  },
  ({ recipe, isProtected }) => {
    const why = isProtected && recipe && REASONS[recipe.version ?? ''];
    if (!why) return [];
    const sentence = `The recipe ${recipe.name} writes ${why}; remove the passwords, or choose another recipe.`;
    return [{ code: 'file.protected', sentence, place: {} }];
  },
);
