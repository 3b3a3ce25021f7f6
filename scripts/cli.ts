import { demo } from './demo.ts'

const [command, ...args] = process.argv.slice(2)

try {
  if (command === 'demo')
    await demo({ isFresh: args.includes('--fresh'), hasPractice: true, hasSecondBench: args.includes('--second-bench') })
  else if (command === 'start') await demo({ isFresh: args.includes('--fresh'), hasPractice: args.includes('--practice'), isEmpty: true })
  else if (command === 'dev') await demo({ isFresh: args.includes('--fresh'), hasPractice: true, isDev: true })
  else if (command === 'test') await (await import('./test.ts')).runTests(args)
  else if (command === 'drill') await (await import('../drill/run.ts')).runDrill(args)
  else if (command === 'structure') (await import('./structure.ts')).printStructure()
  else if (command === 'bench') await (await import('../bench/run.ts')).runBench(args)
} catch (error) {
  console.error((error as Error).message)
  process.exitCode = 1
}
