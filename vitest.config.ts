import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'
import pkg from './package.json' with { type: 'json' }

// one list of aliases: package.json "imports"
const alias = Object.fromEntries(
  Object.entries(pkg.imports).map(([from, to]) => [from.replace('/*', ''), fileURLToPath(new URL(to.replace('/*', ''), import.meta.url))]),
)

/** Files that put a room of their own in place of the product’s: what they read in is theirs alone. */
const standingIn = ['toy-kind', 'own-transport', 'stations-moved'].map((name) => `tests/integration/${name}.test.ts`)

/** What takes much longer than its size says. */
const long = /\/e2e\/guides\.test\.ts$/
/** Long files first: begun last, one of them is waited for by all. */
class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const isLong = ({ moduleId }: TestSpecification) => Number(long.test(moduleId))
    return (await super.sort(files)).sort((a, b) => isLong(b) - isLong(a))
  }
}

export default defineConfig({
  resolve: { alias },
  test: {
    sequence: { sequencer: LongFirst },
    projects: [
      {
        resolve: { alias },
        plugins: [vue()],
        test: {
          name: 'unit',
          // what is read in once serves every file
          isolate: false,
          // what computes: as many as cores
          maxWorkers: '100%',
          include: ['{core,contracts,server,standins,app,scripts}/**/*.test.ts', 'tests/unit/**/*.test.ts'],
          // 5,000 records of each format take as long as the machine takes
          testTimeout: 600_000,
          // a second is no time on a machine that does other things beside
          expect: { poll: { timeout: 90_000 } },
        },
      },
      {
        resolve: { alias },
        // files side by side, each with databases of its own
        test: {
          name: 'integration',
          include: ['tests/integration/**/*.test.ts'],
          exclude: ['tests/integration/killed-*.test.ts', 'tests/integration/drill.test.ts', ...standingIn],
          testTimeout: 900_000,
          // a second is no time on a machine that does other things beside; and each look is work for the product
          expect: { poll: { timeout: 90_000, interval: 150 } },
          hookTimeout: 300_000,
          maxWorkers: 3,
          // the same: each has a shop of its own all the same
          isolate: false,
          maxConcurrency: 4,
          globalSetup: ['tests/setup/database.ts'],
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'integration-alone',
          include: standingIn,
          testTimeout: 900_000,
          // a second is no time on a machine that does other things beside; and each look is work for the product
          expect: { poll: { timeout: 90_000, interval: 150 } },
          hookTimeout: 300_000,
          maxWorkers: 3,
          globalSetup: ['tests/setup/database.ts'],
        },
      },
      {
        resolve: { alias },
        // it restarts the database server itself
        test: {
          name: 'killed',
          include: ['tests/integration/killed-*.test.ts'],
          testTimeout: 900_000,
          // a second is no time on a machine that does other things beside; and each look is work for the product
          expect: { poll: { timeout: 90_000, interval: 150 } },
          hookTimeout: 300_000,
          fileParallelism: false,
          globalSetup: ['tests/setup/database.ts'],
        },
      },
      {
        resolve: { alias },
        // it plays against the clock, and waits for as long as a busy machine takes
        test: {
          name: 'drill',
          include: ['tests/integration/drill.test.ts'],
          testTimeout: 400_000,
          // a second is no time on a machine that does other things beside
          expect: { poll: { timeout: 90_000 } },
          globalSetup: ['tests/setup/database.ts'],
        },
      },
      {
        resolve: { alias },
        // what is shipped, attacked
        test: {
          name: 'attack',
          include: ['tests/attack/**/*.test.ts'],
          testTimeout: 600_000,
          // a second is no time on a machine that does other things beside; and each look is work for the product
          expect: { poll: { timeout: 90_000, interval: 150 } },
          hookTimeout: 300_000,
          // two files side by side, each with a shop of its own
          maxWorkers: 2,
          isolate: false,
          globalSetup: ['tests/setup/database.ts', 'tests/setup/built.ts'],
        },
      },
      {
        resolve: { alias },
        // three files side by side, each with a shop and a browser of its own: a fourth only makes the others slower
        test: {
          name: 'e2e',
          include: ['tests/e2e/**/*.test.ts'],
          setupFiles: ['tests/setup/keep-failed.ts'],
          testTimeout: 900_000,
          // a second is no time on a machine that does other things beside; and each look is work for the product
          expect: { poll: { timeout: 90_000, interval: 150 } },
          hookTimeout: 300_000,
          maxWorkers: 3,
          isolate: false,
          globalSetup: ['tests/setup/database.ts', 'tests/setup/built.ts'],
        },
      },
    ],
  },
})
