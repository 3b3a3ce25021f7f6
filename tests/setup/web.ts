import { spawn, type ChildProcess } from 'node:child_process'
import { freePort } from '../../scripts/postgres.ts'
import { keepOutput, type TestShop } from './shop.ts'

export interface Web {
  readonly url: string
  pid(): number
  /** What it holds once all that nobody holds is collected, in bytes. @throws Error when it does not say within a minute */
  liveBytes(): Promise<number>
  /**
   * The longest its main thread worked without a look at anything else since it was asked last, at first since it began, in
   * milliseconds of a processor's time: how busy the machine is makes no difference. @throws Error as `liveBytes`
   */
  longestTurnMs(): Promise<number>
  /** Killed, and started anew under the same address. */
  restart(): Promise<void>
  kill(): void
}

/** The web process as it is shipped, on a port of its own. @throws Error when it does not answer within a minute */
export async function startWeb(
  shop: TestShop,
  { output = [], env = {} }: { output?: string[]; env?: Record<string, string> } = {},
): Promise<Web> {
  const port = String(await freePort())
  const url = `http://127.0.0.1:${port}`
  const start = async (): Promise<ChildProcess> => {
    const child = spawn(process.execPath, ['--expose-gc', '--import', './tests/setup/says-how-it-stands.mjs', '.output/server/index.mjs'], {
      env: {
        ...process.env,
        ...shop.env,
        CORVEND_PUBLIC_URL: url,
        ...env,
        NITRO_SHUTDOWN_DISABLED: 'true',
        NITRO_HOST: '127.0.0.1',
        NITRO_PORT: port,
        PORT: port,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    keepOutput(child, output)
    for (let i = 0; i < 600; i++) {
      if (
        await fetch(`${url}/api/health`).then(
          (r) => r.ok,
          () => false,
        )
      )
        return child
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    throw new Error('the web process does not answer')
  }
  let child = await start()
  const asked = async (answer: RegExp) => {
    const from = output.length
    child.kill('SIGUSR2')
    for (let i = 0; i < 600; i++) {
      const said = answer.exec(output.slice(from).join(''))
      if (said) return Number(said[1])
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    throw new Error('the web process does not say how it stands')
  }
  return {
    url,
    pid: () => child.pid!,
    liveBytes: () => asked(/live (\d+) bytes/),
    longestTurnMs: () => asked(/longest (\d+) ms\n/),
    async restart() {
      child.kill('SIGKILL')
      child = await start()
    },
    kill: () => void child.kill('SIGKILL'),
  }
}
