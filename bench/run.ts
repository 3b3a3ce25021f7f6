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
  const shop = await openBenchShop()
  try {
    for (const [name, measure] of wanted) {
      console.log(`\n== ${name}`)
      await measure(shop)
    }
  } finally {
    await shop.close()
  }
}
