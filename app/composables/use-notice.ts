import { computed, ref } from 'vue'
import { useLocalStorage, useThrottleFn } from '@vueuse/core'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import { leftLine, standingOf } from '../words/standing.ts'
import { useTickets } from '../stores/tickets.ts'
import { bytes, number } from '../words/say.ts'
import { listen } from './use-events.ts'
import { useNotice as said } from '../words/base.ts'

/** A title on another page than the ticket’s follows it so often. */
const everyMs = 5000

/** What this browser’s hands want: a sound, a notice of the computer’s own. Off until somebody wants them. */
export function useNoticeWishes() {
  return { sound: useLocalStorage('corvend-sound', false), notice: useLocalStorage('corvend-notice', false) }
}

/** Two soft notes. */
export function tryNotice(): void {
  const context = new AudioContext()
  for (const [i, hertz] of [660, 880].entries()) {
    const [tone, gain] = [context.createOscillator(), context.createGain()]
    const at = context.currentTime + i * 0.18
    tone.frequency.value = hertz
    gain.gain.setValueAtTime(0, at)
    gain.gain.linearRampToValueAtTime(0.06, at + 0.02)
    gain.gain.exponentialRampToValueAtTime(0.0001, at + 0.3)
    tone.connect(gain).connect(context.destination)
    tone.start(at)
    tone.stop(at + 0.32)
  }
  setTimeout(() => void context.close(), 1500)
}

/** How far what runs is, for a tab’s title: “1,161 of 2,359”, or the time left; of several, how many run. */
export function progressTitle(tickets: readonly TicketSummary[]): string {
  const running = tickets.filter(({ run }) => run?.state === 'running')
  if (running.length === 0) return ''
  if (running.length > 1) return said.run(running.length)
  const [{ number: name, run }] = running as [TicketSummary]
  const say = (n: number) => (run!.unit === 'bytes' ? bytes(n) : number(n))
  return `${name} ${leftLine(run!) || (run!.total > 1 ? said.of(say(run!.done), say(run!.total)) : said.runs)}`
}

/** What a ticket is noticed for, once something of it ended or waits; nothing while it goes on by itself. */
export function noticeOf({ run, straight, stage }: Pick<TicketSummary, 'run' | 'straight' | 'stage'>): 'over' | 'waits' | undefined {
  if (run) return run.state === 'paused' ? 'waits' : undefined
  if (straight?.stop) return 'waits'
  // carrying is followed by its check, and straight through goes on: the end is the last of it
  return straight && ['count-in', 'choose'].includes(stage) ? undefined : 'over'
}

/** Every end is news; a wait is looked at again and again, and is news once for what it waits for. */
export function createNews(): (ticket: Pick<TicketSummary, 'number' | 'run' | 'straight' | 'stage'>) => boolean {
  const waitsFor = new Map<string, string>()
  return (ticket) => {
    const what = noticeOf(ticket)
    const why = ticket.run?.reason ?? ticket.straight?.stop?.code ?? ''
    const isKnown = what === 'waits' && waitsFor.get(ticket.number) === why
    if (what === 'waits') waitsFor.set(ticket.number, why)
    else waitsFor.delete(ticket.number)
    return what !== undefined && !isKnown
  }
}

/**
 * Whichever page one is on: the tab’s title says how far it is, and what is over or waits is noticed. It asks only when
 * something ended or waits, and for a title only while nothing on the page knows of a run.
 */
export function useNotice() {
  const store = useTickets()
  const { sound, notice } = useNoticeWishes()
  const isNews = createNews()
  async function hear(number: string) {
    await store.loadToday().catch(() => undefined)
    const ticket = store.today?.tickets.find((one) => one.number === number)
    if (!ticket || !isNews(ticket)) return
    if (sound.value) tryNotice()
    if (notice.value && Notification.permission === 'granted' && !document.hasFocus())
      new Notification(said.corvend(number), { body: standingOf(ticket).short, tag: number })
  }
  const running = ref(new Set<string>())
  const look = useThrottleFn(() => store.loadToday().catch(() => undefined), everyMs)
  listen(({ ticket, of }) => {
    if (!ticket) return
    if (of === 'progress') {
      running.value.add(ticket)
      // on another page than its own: how far it is, now and then
      if (location.pathname !== '/' && location.pathname !== `/tickets/${ticket}`) void look()
    } else if (of === 'run') {
      running.value.delete(ticket)
      void hear(ticket)
    }
  })
  return computed(() => {
    const open = Object.values(store.byNumber).filter(({ number }) => running.value.has(number))
    const others = (store.today?.tickets ?? []).filter(({ number }) => !open.some((ticket) => ticket.number === number))
    return progressTitle([...open, ...others])
  })
}
