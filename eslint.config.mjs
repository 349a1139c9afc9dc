import globals from 'globals';
import tseslint from 'typescript-eslint';
import vue from 'eslint-plugin-vue';

/** Refuses `item.kind === 'quiz'` and its like: the next kind would be forgotten there without a word. */
const KINDS_BY_TABLE = {
  create: (context) => {
    const check = (node) => {
      const side = [node.left, node.right].find(
        (one) => one.type === 'Literal' && /^(page|assignment|quiz|discussion|activity)$/.test(one.value),
      );
      const other = side === node.left ? node.right : node.left;
      if (side === undefined || other.type !== 'MemberExpression' || other.property.name !== 'kind') return;
      context.report({ node, message: 'Ask a table of the kinds (kindOfItem, servedKind, SHOWN_KINDS), so that no kind is forgotten.' });
    };
    const rule = { BinaryExpression: check };
    // Templates of Vue are read by their own parser.
    return context.sourceCode.parserServices.defineTemplateBodyVisitor?.(rule, rule) ?? rule;
  },
};

export default tseslint.config(
  { ignores: ['**/node_modules/**', 'dist/**', 'data/**', '.test-data/**', '**/*.d.ts'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/essential'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  { languageOptions: { globals: { ...globals.node, ...globals.browser } } },
  {
    rules: {
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['error'] }],
      'prefer-const': 'error',
      'no-var': 'error',
      'no-eval': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      // What is taken out of an object is named to be left behind.
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
      // Slots of tables are named for their columns: item.bytes.
      'vue/valid-v-slot': ['error', { allowModifiers: true }],
      'vue/no-v-html': 'error',
      'vue/multi-word-component-names': 'off',
    },
  },
  // The contract: no address of the server is written but in its endpoint, and nothing asks it but through call().
  {
    files: ['web/src/**/*.{ts,vue}', 'server/src/**/*.ts', 'api/src/**/*.ts'],
    ignores: ['web/src/platform/http.ts', 'server/src/platform/app.ts', 'api/src/contract.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[value=/^\\/api\\//]', 'TemplateElement[value.raw=/^\\/api\\//]'].map((selector) => ({
          selector,
          message: 'Write the address with urlOf() of its endpoint.',
        })),
      ],
    },
  },
  {
    files: ['web/src/**/*.{ts,vue}'],
    ignores: ['web/src/platform/call.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['**/platform/http.ts'], importNamePattern: '^ask', message: 'Ask the server through call() of an endpoint.' },
          ],
        },
      ],
    },
  },
  // What the browser keeps carries the person it is kept for, and listeners go with their component.
  {
    files: ['web/src/**/*.{ts,vue}'],
    ignores: ['web/src/platform/kept.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['localStorage', 'sessionStorage'].map((name) => ({ name, message: 'Keep it through platform/kept.ts.' })),
      ],
    },
  },
  {
    files: ['web/src/**/*.vue'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...['document', 'window'].map((object) => ({ object, property: 'addEventListener', message: 'Use useEventListener().' })),
      ],
    },
  },
  // Kinds of item: what is special about one stands in its folder and in tables that name every kind; file formats have words of their own.
  {
    files: ['web/src/**/*.{ts,vue}', 'server/src/**/*.ts', 'core/src/**/*.ts'],
    ignores: ['server/src/exchange/**', 'core/src/exchange/**', 'web/src/exchange/**', '**/*.test.ts'],
    plugins: { kinds: { rules: { 'by-table': KINDS_BY_TABLE } } },
    rules: { 'kinds/by-table': 'error' },
  },
  // Layers by import as well: the core knows no clock, no randomness and nothing of ours.
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'Date', 'window', 'document', 'process', 'fetch', 'setTimeout'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
      'no-restricted-imports': ['error', { patterns: ['@rosemary/*', 'vue', 'pg', 'node:*'] }],
    },
  },
);
