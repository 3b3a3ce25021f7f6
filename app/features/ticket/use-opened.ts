import { computed, nextTick, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Stage } from '#contracts/http/ticket.ts'
import { stages } from '#contracts/http/sets.ts'
import { addressOf, openedFrom, type Opened } from './opened.ts'

/**
 * What is open on a ticket, kept in its address: back closes it, a reload keeps it, a colleague can be sent it. The
 * stage whose panel was pressed stands there too. What is closed gives the focus back to what opened it.
 */
export function useOpened() {
  const route = useRoute()
  const router = useRouter()
  const opened = computed(() => openedFrom(route.query))
  const stage = computed(() => stages.find((known) => known === route.query.stage) ?? null)
  /** What the slice that is open is called while names are shown: in no address. */
  const title = ref('')
  let opener: HTMLElement | null = null

  const queryOf = (next: Opened | null, at: Stage | null) => ({ ...addressOf(next), ...(at ? { stage: at } : {}) })

  function open(next: Opened, called = ''): void {
    title.value = called
    const query = queryOf(next, stage.value)
    if (opened.value) return void router.replace({ query })
    opener = document.activeElement instanceof HTMLElement ? document.activeElement : null
    void router.push({ query })
  }

  async function close(): Promise<void> {
    if (!opened.value) return
    title.value = ''
    const from = opener
    opener = null
    // back to where it was opened from, or, where the page was opened with it, the same page without it
    const before = String((history.state as { back?: string | null } | null)?.back ?? '')
    const isBefore = before.split('?')[0] === route.path && !before.includes('open=')
    if (isBefore) router.back()
    else await router.replace({ query: queryOf(null, stage.value) })
    await nextTick()
    setTimeout(() => (from?.isConnected ? from : document.querySelector<HTMLElement>('[aria-label="Ledger"] [tabindex="0"]'))?.focus(), 0)
  }

  /** Another stage’s panel, closing what is open; null for the ticket’s own. */
  function show(next: Stage | null): void {
    if (next === stage.value && !opened.value) return
    void router.replace({ query: queryOf(null, next) })
  }
  return { opened, stage, title, open, close, show }
}
