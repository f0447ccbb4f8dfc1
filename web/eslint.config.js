import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import globals from 'globals'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  {
    ignores: [
      'dist',
      'src/api/schema.d.ts',
      'src/api/dimensions.ts',
      'src/api/linkOptions.ts',
      'src/api/countries.ts',
      '*.cjs',
      'eslint.config.js',
    ],
  },
  js.configs.recommended,
  tseslint.configs.recommendedTypeChecked,
  hooks.configs.flat.recommended,
  {
    languageOptions: {
      globals: globals.browser,
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      // The router says "go elsewhere" by throwing.
      '@typescript-eslint/only-throw-error': 'off',
    },
  },
)
