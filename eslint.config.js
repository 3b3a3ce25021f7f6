import { dirname, relative, resolve } from 'node:path'
import tseslint from 'typescript-eslint'
import vue from 'eslint-plugin-vue'

/** Which folder may import which; packages are named where a folder must stay pure. */
export const arrows = {
  core: { folders: ['core'], packages: ['libphonenumber-js', 'fflate', 'papaparse', 'ical.js', 'zod', 'exifr'] },
  contracts: { folders: ['contracts'], packages: ['zod'] },
  server: { folders: ['server', 'core', 'contracts'] },
  standins: { folders: ['standins', 'contracts'] },
  app: { folders: ['app', 'core', 'contracts'] },
}
/** Only these know the hand. */
const handKnowers = [
  'server/api/practice/',
  'server/config.ts',
  'server/api/session.get.ts',
  'app/pages/practice.vue',
  'app/features/practice/',
  'app/words/',
]

const root = import.meta.dirname

const corvend = {
  rules: {
    arrows: {
      meta: { type: 'problem', schema: [] },
      create(context) {
        const file = relative(root, context.filename)
        const folder = file.split('/')[0]
        const rule = arrows[folder]
        if (!rule || file.endsWith('.test.ts')) return {}
        const check = (node) => {
          const source = node.source?.value
          if (typeof source !== 'string') return
          let target
          if (source.startsWith('#')) target = source.slice(1).split('/')[0]
          else if (source.startsWith('~/')) target = 'app'
          else if (source.startsWith('.')) target = relative(root, resolve(dirname(context.filename), source)).split('/')[0]
          else {
            const name = source.startsWith('@') ? source.split('/').slice(0, 2).join('/') : source.split('/')[0]
            if (rule.packages && !rule.packages.includes(name))
              context.report({ node, message: `${folder}/ must not import the package ${name}` })
            return
          }
          if (
            ['core', 'contracts', 'server', 'standins', 'app', 'tests', 'bench', 'scripts'].includes(target) &&
            !rule.folders.includes(target)
          ) {
            context.report({ node, message: `${folder}/ must not import ${target}/` })
          }
        }
        return { ImportDeclaration: check, ExportNamedDeclaration: check, ExportAllDeclaration: check, ImportExpression: check }
      },
    },
    'no-hand': {
      meta: { type: 'problem', schema: [] },
      create(context) {
        const file = relative(root, context.filename)
        if (!/^(server|app)\//.test(file) || handKnowers.some((path) => file.startsWith(path))) return {}
        return {
          Literal(node) {
            if (typeof node.value === 'string' && /api\/practice|HAND_/.test(node.value))
              context.report({ node, message: 'only the practice screen knows the hand' })
          },
          MemberExpression(node) {
            if (node.property.type === 'Identifier' && node.property.name === 'hand')
              context.report({ node, message: 'only the practice screen knows the hand' })
          },
        }
      },
    },
  },
}

export default tseslint.config(
  { ignores: ['.nuxt/**', '.output/**', 'node_modules/**', '.corvend/**'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  {
    plugins: { corvend },
    rules: {
      'corvend/arrows': 'error',
      'corvend/no-hand': 'error',
      'no-undef': 'off',
      'no-console': 'off',
      eqeqeq: ['error', 'smart'],
      'prefer-const': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/attributes-order': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/require-default-prop': 'off',
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'process', 'Buffer', 'window', 'document', 'fetch', 'setTimeout'],
      'no-restricted-properties': ['error', { object: 'Date', property: 'now' }, { object: 'Math', property: 'random' }],
    },
  },
)
