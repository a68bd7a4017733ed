import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';

/** Rules that need types are asked of everything that TypeScript knows; what is plain JavaScript gets the rest. */
export default tseslint.config(
  { ignores: ['node_modules', '.next', '.build', 'next-env.d.ts', '**/*.cjs'] },
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
  },
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-nested-ternary': 'error',
      'max-depth': ['error', 4],
      'max-params': ['error', 6],
      'no-console': 'off',
    },
  },
  {
    // Jest's asymmetric matchers (`expect.objectContaining`) are `any` by their own types.
    files: ['**/*.test.{ts,tsx}'],
    rules: {
      // Properties name what they are given.
      'max-params': 'off',
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
    },
  },
  { files: ['**/*.mjs', 'public/**/*.js'], ...tseslint.configs.disableTypeChecked },
);
