import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { describe, expect, it } from 'vitest'
import { endAll, envOf } from './demo.ts'

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

describe('what the processes of a shop are told', () => {
  const told = (benches: Parameters<typeof envOf>[0]['benches']) =>
    envOf({
      urls: { owner: '', app: 'app', standins: '' },
      dataFolder: 'data',
      masterKeyFile: 'key',
      webPort: 4670,
      state: { linkToken: 'l', handToken: 'h' },
      benches,
    })
  it('without practice phones the benches are the shop’s own to say', () => {
    expect(told([])).not.toHaveProperty('CORVEND_STATIONS')
  })
  it('each bench of practice phones is one, with its ports and what moves its phones', () => {
    const bench = { station: { code: 'bench', name: '', firstPort: 1 }, database: '', demo: '1' as const, linkPort: 1, handPort: 2 }
    expect(JSON.parse(told([bench]).CORVEND_STATIONS!)).toEqual([
      {
        ...bench.station,
        link: { url: 'http://127.0.0.1:1', token: 'l' },
        hand: { url: 'http://127.0.0.1:2', token: 'h' },
      },
    ])
  })
})
