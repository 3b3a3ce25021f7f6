import type { Page } from 'playwright-core'
import { expect } from 'vitest'
import type { TestShop } from './shop.ts'

/** Fingers that know nothing but what the screen says: each step on the screen names what it has them do. */
export interface Fingers {
  /** How many steps were done, refused ones included. */
  readonly done: readonly string[]
  /** Follows the screen until both phones are ready. */
  untilReady(): Promise<void>
}

interface Step {
  act: string | null
  times: number
}

/**
 * Takes a ticket's phones from however they are to ready, by the steps the page names: those of the need it shows,
 * or, for a phone that is not seen or says nothing, those of its likely causes in turn.
 */
export function followGuide(
  page: Page,
  shop: TestShop,
  serials: { old: string; new: string },
  ports: { old: number; new: number },
): Fingers {
  const done: string[] = []
  const causeAt = { old: 0, new: 0 }

  /** Whether the phone did any of it. */
  async function press(side: 'old' | 'new', steps: readonly Step[]): Promise<boolean> {
    let hasDone = false
    for (const { act, times } of steps) {
      if (!act) continue
      for (let i = 0; i < times; i++) {
        const body = act === 'plug' ? { port: ports[side] } : {}
        // a phone that can't do that now refuses; the next cause is tried
        await shop.hand(`phones/${serials[side]}/${act}`, body).then(
          () => (hasDone = true),
          () => undefined,
        )
      }
      done.push(`${side} ${act}`)
    }
    return hasDone
  }

  const stepsIn = (selector: string) =>
    page
      .locator(`${selector} li[data-times]`)
      .evaluateAll((items) => items.map((item) => ({ act: item.getAttribute('data-act'), times: Number(item.getAttribute('data-times')) })))
  /** What the page says now; it changes by itself after a hand did something. */
  const said = () => page.locator('main').innerText()
  async function untilItFollows(before: string): Promise<void> {
    await expect
      .poll(said, { timeout: 1500, interval: 150 })
      .not.toBe(before)
      .catch(() => undefined)
  }

  return {
    done,
    async untilReady() {
      for (let turn = 0; turn < 40; turn++) {
        if (
          await page
            .getByText('Both phones are ready for the wanted kinds.')
            .or(page.getByRole('button', { name: /^Count in the/ }))
            .first()
            .isVisible()
        )
          return
        const card = page.locator('[data-need-card]').first()
        await card.waitFor()
        const side = (await page.locator('[data-need-card]').locator('xpath=..').locator('p').first().innerText()).startsWith('OLD')
          ? 'old'
          : 'new'
        const before = await said()
        const [code, state] = [await card.getAttribute('data-need-card'), await card.getAttribute('data-state')]
        const sight = await page.locator(`section[data-side="${side}"]`).getAttribute('data-sight')
        const causes = page.locator(`section[data-side="${side}"] [data-cause]`)
        let hasDone = true
        if (state === 'ask') await card.getByRole('button', { name: 'I have looked: it is done' }).click()
        else if (sight !== 'absent' && (code === 'seen' || state === 'later') && (await causes.count()) > 0) {
          const at = causeAt[side]++ % (await causes.count())
          const cause = await causes.nth(at).getAttribute('data-cause')
          hasDone = await press(side, await stepsIn(`section[data-side="${side}"] [data-cause="${cause}"]`))
        } else hasDone = await press(side, await stepsIn('[data-need-card]'))
        // what was refused is followed by nothing
        if (hasDone) await untilItFollows(before)
      }
      throw new Error(`not ready after 40 turns: ${done.join(', ')}\n${await said()}`)
    },
  }
}
