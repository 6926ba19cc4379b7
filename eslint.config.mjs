// @ts-check
import withNuxt from './.nuxt/eslint.config.mjs'

export default withNuxt(
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/html-indent': 'off',
      'vue/require-default-prop': 'off',
      '@stylistic/brace-style': ['error', '1tbs', { allowSingleLine: true }],
      '@stylistic/multiline-ternary': 'off',
      '@stylistic/indent': 'off',
      '@stylistic/operator-linebreak': 'off',
      '@stylistic/max-statements-per-line': 'off',
      // Words and patterns are not cut for it.
      '@stylistic/max-len': ['error', { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true }],
      'no-console': ['error', { allow: ['error'] }],
    },
  },
  {
    files: ['**/*.vue'],
    rules: {
      '@stylistic/max-len': 'off',
      'vue/max-len': ['error', {
        code: 140, template: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true,
        ignoreHTMLAttributeValues: true, ignoreHTMLTextContents: true,
      }],
      // What screens say stands in app/locales.
      'vue/no-bare-strings-in-template': ['error', {
        allowlist: ['·', ',', '.', ':', '?', '–', '—', '/', '(', ')', '⠿', '‹', '›', '±', '%'],
        attributes: { '/.+/': ['title', 'subtitle', 'label', 'aria-label', 'placeholder', 'alt', 'hint', 'caption', 'lead', 'none', 'unit'] },
        directives: ['v-text'],
      }],
      'vue/no-restricted-syntax': ['error', {
        selector: 'VExpressionContainer :matches(Literal[value=/[a-z,’] [a-z]/i], TemplateElement[value.raw=/[a-z,’] [a-z]|^[A-Z][a-z]+ /])',
        message: 'What screens say stands in app/locales.',
      }],
    },
  },
  { ignores: ['server/database/migrations/**', '.data/**'] },
)
