import { readdirSync } from 'node:fs'
import { join, relative } from 'node:path'
import tseslint from 'typescript-eslint'
import vue from 'eslint-plugin-vue'
import { againstStoreys, circlesOf, importsOf, readGraph, targetOf } from './scripts/import-graph.js'

/** Which folder may import which; packages are named where a folder must stay pure. */
export const arrows = {
  core: { folders: ['core'], packages: ['libphonenumber-js', 'fflate', 'papaparse', 'ical.js', 'zod', 'exifr', 'music-metadata'] },
  // what an error says stands with all other words, and answers carry it
  contracts: { folders: ['contracts', 'core'], packages: ['zod'], files: ['app/words/errors.ts'] },
  server: { folders: ['server', 'core', 'contracts'] },
  standins: { folders: ['standins', 'contracts'] },
  app: { folders: ['app', 'core', 'contracts'] },
}
/** Only these know the hand. */
const handKnowers = [
  'server/api/answers/practice.ts',
  'server/base/config.ts',
  'server/api/answers/session.ts',
  'server/api/door/door.ts',
  'app/pages/practice.vue',
  'app/features/practice/',
  'app/words/',
]

/** Services that are about one kind. */
const aboutOneKind = [
  'server/desk/choose/apps.ts',
  'server/desk/choose/install-list.ts',
  'server/book/entries/apps.queries.ts',
  'server/endpoints/films.ts',
]

const layoutBeside = new Set(['vue/attributes-order', 'vue/html-self-closing'])

const root = import.meta.dirname
/** Read once: who imports whom, and the kinds there are. */
let graph
let kindCodes
const isImport = (node) => /^(Import|Export)/.test(node.parent.type)

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
          const path = targetOf(file, source)
          if (path === undefined) {
            const name = source.startsWith('@') ? source.split('/').slice(0, 2).join('/') : source.split('/')[0]
            if (rule.packages && !rule.packages.includes(name))
              context.report({ node, message: `${folder}/ must not import the package ${name}` })
            return
          }
          const against = againstStoreys(file, path)
          if (against) context.report({ node, message: against })
          const target = path.split('/')[0]
          if (
            ['core', 'contracts', 'server', 'standins', 'app', 'tests', 'bench', 'scripts'].includes(target) &&
            !rule.folders.includes(target) &&
            !rule.files?.includes(path)
          ) {
            context.report({ node, message: `${folder}/ must not import ${target}/` })
          }
        }
        return { ImportDeclaration: check, ExportNamedDeclaration: check, ExportAllDeclaration: check, ImportExpression: check }
      },
    },
    'no-circles': {
      meta: { type: 'problem', schema: [] },
      create(context) {
        const file = relative(root, context.filename)
        if (!arrows[file.split('/')[0]] || file.endsWith('.test.ts')) return {}
        return {
          Program(node) {
            graph ??= readGraph(root)
            const now = new Map(graph).set(file, importsOf(file, context.sourceCode.text))
            const circle = circlesOf(now).find((files) => files.includes(file))
            if (circle) context.report({ node, message: `files import each other in a circle: ${circle.join(', ')}` })
          },
        }
      },
    },
    'no-sql': {
      meta: { type: 'problem', schema: [] },
      create(context) {
        const file = relative(root, context.filename)
        const isElsewhere = !/^(server|standins)\//.test(file) || /\.(queries|test)\.ts$/.test(file)
        if (isElsewhere || /^(server\/base|standins)\/db\//.test(file)) return {}
        const message = 'statements belong in a *.queries.ts'
        const isStatement = (text) =>
          /^\s*(select|insert into|update|delete from|with|copy|create|alter|drop|listen|savepoint|rollback)\s+[a-z_*(]/.test(text)
        return {
          CallExpression(node) {
            const { callee } = node
            if (callee.type === 'MemberExpression' && callee.property.name === 'query' && callee.object.type !== 'ThisExpression')
              context.report({ node, message })
          },
          Literal(node) {
            if (typeof node.value === 'string' && isStatement(node.value) && node.value.split(' ').length > 3)
              context.report({ node, message })
          },
          TemplateElement(node) {
            if (isStatement(node.value.raw) && node.value.raw.split(/\s+/).length > 3) context.report({ node, message })
          },
        }
      },
    },
    'one-writer': {
      meta: { type: 'problem', schema: [] },
      create(context) {
        const file = relative(root, context.filename)
        if (!file.startsWith('server/') || file.endsWith('.test.ts') || file === 'server/book/settle.queries.ts') return {}
        const movesFate = /update entry\b[^;]*?\bset\b((?!\b(from|where)\b)[^;])*\bfate\s*=/i
        const check = (node, text) => movesFate.test(text) && context.report({ node, message: 'only server/book/settle changes a fate' })
        return { Literal: (node) => check(node, String(node.value)), TemplateElement: (node) => check(node, node.value.raw) }
      },
    },
    'words-in-words': {
      meta: { type: 'problem', schema: [] },
      create(context) {
        const file = relative(root, context.filename)
        if (!file.startsWith('app/') || /^app\/(words|kinds\/\w+\/(index|words)\.ts)/.test(file) || file.endsWith('.test.ts')) return {}
        const message = 'what a screen says stands in app/words, or with its kind'
        const hasLetters = (text) => /\p{L}{2}/u.test(text)
        // a name of a class, a code, a query of style: nothing that is read aloud
        const isSaid = (text) => /^\p{L}+(?:[,:;]? \p{L}+){2,}$/u.test(text) || isSentence(text)
        const isSentence = (text) =>
          /[?!’]|\.(\s|$)|\p{Lu}/u.test(text) &&
          /(^|\s)\p{L}[\p{L}’]*,? \p{L}+/u.test(text) &&
          !/^[a-z0-9[\]():.,%!/_*#"= -]*[-[=:(][^.?!]*$/.test(text)
        /** “ open, ” between two figures. */
        const isBetween = (text) => /^(?=.*\s)[\s,;:.·]*\p{L}{2,}[\p{L}\s,.;:’…]*$/u.test(text)
        const check = (node, text, isShown) => (isShown ? hasLetters(text) : isSaid(text)) && context.report({ node, message })
        /** Whether a literal is what an expression shows, not what it compares or looks up. */
        const isShown = (node) => {
          for (let at = node; at.parent; at = at.parent) {
            const { parent } = at
            if (parent.type === 'VExpressionContainer') return parent.parent.type === 'VElement'
            if (parent.type === 'ConditionalExpression' && parent.test !== at) continue
            if (parent.type === 'LogicalExpression' || parent.type === 'TemplateLiteral') continue
            if (parent.type === 'BinaryExpression' && parent.operator === '+') continue
            return false
          }
          return false
        }
        const isFont = (node) => node.parent?.key?.name === 'fontFamily'
        const said = {
          Literal: (node) => !isFont(node) && typeof node.value === 'string' && check(node, node.value, isShown(node)),
          TemplateElement: (node) => check(node, node.value.raw, isShown(node.parent) || isBetween(node.value.raw)),
        }
        const { defineTemplateBodyVisitor } = context.sourceCode.parserServices
        if (!defineTemplateBodyVisitor) return said
        const spoken = /^(label|title|aria-label|placeholder|close|caption|alt)$/
        return defineTemplateBodyVisitor(
          {
            VText: (node) => check(node, node.value, true),
            'VAttribute[directive=false]': (node) => node.value && spoken.test(node.key.name) && check(node, node.value.value, true),
            "VAttribute[directive=true][key.argument.name!='class'] Literal": said.Literal,
            "VAttribute[directive=true][key.argument.name!='class'] TemplateElement": said.TemplateElement,
            'VElement > VExpressionContainer Literal': said.Literal,
            'VElement > VExpressionContainer TemplateElement': said.TemplateElement,
          },
          said,
        )
      },
    },
    /** A kind is named by its own folders alone; a service that is about one kind is named here. */
    'no-kind': {
      meta: { type: 'problem', schema: [] },
      create(context) {
        const file = relative(root, context.filename)
        // words are words: what a kind is called may be its code, too
        const isOwn = /^((core|app|standins)\/kinds|app\/words)\//.test(file) || aboutOneKind.includes(file)
        if (!/^(core|contracts|server|app|standins)\//.test(file) || isOwn || /\.test\.ts$/.test(file)) return {}
        kindCodes ??= readdirSync(join(root, 'core/kinds'), { withFileTypes: true })
          .filter((entry) => entry.isDirectory())
          .map(({ name }) => name)
        const message = 'a kind is named in its own folders alone'
        const inSql = new RegExp(`\\bkind = '(${kindCodes.join('|')})'`)
        const found = {
          Literal: (node) => kindCodes.includes(node.value) && !isImport(node) && context.report({ node, message }),
          TemplateElement: (node) => inSql.test(node.value.raw) && context.report({ node, message }),
        }
        const { defineTemplateBodyVisitor } = context.sourceCode.parserServices
        return defineTemplateBodyVisitor ? defineTemplateBodyVisitor(found, found) : found
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

/** How code is laid out is Prettier's to say, of every rule of that kind. */
function withoutLayout(config) {
  if (!config.rules) return config
  const isLayout = (name) => vue.rules[name.replace('vue/', '')]?.meta.type === 'layout' || layoutBeside.has(name)
  return { ...config, rules: Object.fromEntries(Object.entries(config.rules).filter(([name]) => !isLayout(name))) }
}

export default tseslint.config(
  { ignores: ['.nuxt/**', '.output/**', 'node_modules/**', '.corvend/**'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'].map(withoutLayout),
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  {
    plugins: { corvend },
    rules: {
      'corvend/arrows': 'error',
      'corvend/no-circles': 'error',
      'corvend/no-sql': 'error',
      'corvend/no-kind': 'error',
      'corvend/words-in-words': 'error',
      'corvend/one-writer': 'error',
      'corvend/no-hand': 'error',
      'no-undef': 'off',
      'no-console': 'off',
      eqeqeq: ['error', 'smart'],
      'prefer-const': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      'vue/multi-word-component-names': 'off',
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
