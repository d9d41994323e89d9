import tseslint from 'typescript-eslint';
import { arrows } from './scripts/lint/arrows.mjs';
import { controls } from './scripts/lint/controls.mjs';

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', '.folvex/', '.angular/', 'server/drizzle/', 'coverage/', 'test-results/'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.ts'],
    plugins: { folvex: { rules: { arrows, controls } } },
    rules: {
      'folvex/arrows': 'error',
      eqeqeq: ['error', 'always'],
      'no-console': 'off',
      'prefer-const': 'error',
      '@typescript-eslint/consistent-type-imports': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    // Core runs anywhere: nothing of a browser or of Node, no clock, no chance.
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'Buffer',
        'setTimeout',
        'fetch',
        'performance',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: 'NewExpression[callee.name="Date"][arguments.length=0]',
          message: 'Core has no clock; time is an argument.',
        },
      ],
    },
  },
  {
    // Templates have Material's controls; a key and its line in the sheet of shortcuts are one fact.
    files: ['web/src/**/*.ts'],
    ignores: ['web/src/ui/shortcuts.ts'],
    rules: {
      'folvex/controls': 'error',
      'no-restricted-syntax': [
        'error',
        {
          selector: 'MemberExpression[object.name="event"][property.name=/^(key|code|keyCode)$/]',
          message: 'List the key in the shortcuts of its place and ask shortcutOf() for it.',
        },
      ],
    },
  },
);
