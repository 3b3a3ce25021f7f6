import { spawnSync } from 'node:child_process'
import { measureBook } from './book.ts'
import { measureCalendar } from './calendar.ts'
import { measureFiles } from './files.ts'
import { measureFirstPage } from './first-page.ts'
import { measureFollow } from './follow.ts'
import { measureHeavy } from './heavy.ts'
import { measureLocker } from './locker.ts'
import { measureMatching } from './matching.ts'
import { measureMemory } from './memory.ts'
import { measurePage } from './page.ts'
import { measurePipe } from './pipe.ts'
import { measurePictures } from './pictures.ts'
import { measureTakeover } from './takeover.ts'
import { measureTiles } from './tiles.ts'
import { openBenchShop } from './shop.ts'
import { measureStowing } from './stowing.ts'
import { measureVcard } from './vcard.ts'

/** Ratios measured side by side in one run; figures of one machine mean nothing, ratios do. */
export async function runBench(only: readonly string[]): Promise<void> {
  const parts = {
    vcard: measureVcard,
    stowing: measureStowing,
    matching: measureMatching,
    memory: measureMemory,
    'first-page': measureFirstPage,
    calendar: measureCalendar,
    book: measureBook,
    takeover: measureTakeover,
    follow: measureFollow,
    page: measurePage,
    tiles: measureTiles,
    files: measureFiles,
    pictures: measurePictures,
    pipe: measurePipe,
    locker: measureLocker,
    heavy: measureHeavy,
  }
  const wanted = Object.entries(parts).filter(([name]) => only.length === 0 || only.includes(name))
  if (wanted.length > 1) return wanted.forEach(([name]) => runAlone(name))
  for (const [name, measure] of wanted) {
    const shop = await openBenchShop()
    try {
      console.log(`\n== ${name}`)
      await measure(shop)
    } finally {
      await shop.close()
    }
  }
}

/** In a process and with databases of its own: no part is measured beside what another left behind. @throws Error when it fails */
function runAlone(name: string): void {
  const { status } = spawnSync(process.execPath, [...process.execArgv, process.argv[1]!, 'bench', name], { stdio: 'inherit' })
  if (status !== 0) throw new Error(`the bench of ${name} failed`)
}
