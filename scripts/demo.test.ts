import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { describe, expect, it } from 'vitest'
import { endAll } from './demo.ts'

describe('ending the demo', () => {
  it('ends every process, one that is too busy to hear it as well', async () => {
    const start = async (code: string) => {
      const child = spawn(
        process.execPath,
        ['-e', `${code}; console.log('up'); ${code === '' ? 'setInterval(() => {}, 1000)' : 'for (;;);'}`],
        {
          stdio: ['ignore', 'pipe', 'ignore'],
        },
      )
      await once(child.stdout, 'data')
      return child
    }
    // a handler and a loop: the signal is heard by nobody
    const children = [await start(''), await start("process.on('SIGTERM', () => process.exit(0))")]
    await endAll(children, 200)
    expect(children.map(({ exitCode, signalCode }) => exitCode === null && signalCode === null)).toEqual([false, false])
    expect(children[1]!.signalCode).toBe('SIGKILL')
  })
})
