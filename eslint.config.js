import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/dist/', '**/node_modules/', 'data/', 'reports/', '**/*.cjs', '**/*.mjs'] },
  js.configs.recommended,
  ts.configs.strict,
  {
    rules: {
      // Only an index that is known to be in range may be asserted; see the rule on syntax below.
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-restricted-syntax': [
        'error',
        { selector: 'TSEnumDeclaration', message: 'Use a union of texts or a constant object.' },
        {
          selector: 'TSNonNullExpression > :not(MemberExpression[computed=true])',
          message: 'Only an index that is known to be in range may be asserted (list[i]!). Check the rest.',
        },
      ],
    },
  },
  { files: ['web/**/*.{ts,tsx}'], plugins: { 'react-hooks': hooks }, rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' } },
  { files: ['core/src/**/*.ts'], rules: { 'no-restricted-globals': ['error', 'window', 'document', 'localStorage', 'process', 'fetch'] } },
);
