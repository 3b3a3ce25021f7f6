import { errors, isErrorCode } from '#contracts/errors.ts'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { PhoneOnTicket, RunView, TicketSummary, TicketView } from '#contracts/http/ticket.ts'
import { leftToInstall, stillToCarry } from '#core/book/index.ts'
import { bytes, itemsOf, number, range, shortAndOver } from './say.ts'
import { nameOf } from './copy-line.ts'
import { lookBoard } from './lockers.ts'
import { stopWords } from './course.ts'
import { ofSides } from './sides.ts'
import { words } from './words.ts'

export type Tone = 'good' | 'note' | 'bad' | 'run' | 'plain'
export interface Standing {
  readonly tone: Tone
  /** May it be handed over, and if not, what holds it. */
  readonly line: string
  /** What comes next, and how long. */
  readonly next: string
  /** The same in a few words, for a list. */
  readonly short: string
}

/** What differs, each with the count it opens to; several counts of one difference open the largest. */
export function differences(row: LedgerRow): { readonly say: string; readonly opens: EntryFilter }[] {
  if (row.verdict !== 'differs' && row.verdict !== 'accepted') return []
  const opens = (counts: readonly (readonly [EntryFilter, number])[]) => [...counts].sort((a, b) => b[1] - a[1])[0]![0]
  const { fates, new: now } = row
  return [
    ...(row.short > 0
      ? [
          {
            say: `${number(row.short)} short`,
            opens: opens([
              ['lost', fates.lost],
              ['missing', now.missing],
            ]),
          },
        ]
      : []),
    ...(row.over > 0
      ? [
          {
            say: `${number(row.over)} over`,
            opens: opens([
              ['leftBehind', now.leftBehind],
              ['double', now.double],
            ]),
          },
        ]
      : []),
  ]
}

/** “17 short”, “2 over”, or both; never netted. */
export function differenceOf(row: LedgerRow): string {
  return shortAndOver(row) || 'the phone’s own count is not met'
}

export function verdictWord(row: LedgerRow): string {
  if (row.verdict === 'differs') return differenceOf(row) === 'the phone’s own count is not met' ? 'Count not met' : differenceOf(row)
  if (row.verdict === 'accepted') return `Accepted: ${differenceOf(row)}`
  if (row.toInstall > 0 && row.new.last !== null && row.toInstall === row.fates.pending) return `${number(row.toInstall)} to install`
  if (row.verdict === 'waiting' && row.new.last !== null && row.fates.pending > 0) return `${number(row.fates.pending)} waiting`
  return words.verdicts[row.verdict]!
}

/** The verdicts of a group of kinds in a few words: the worst of them first. */
export function groupVerdict(rows: readonly LedgerRow[]): string {
  const of = (verdict: LedgerRow['verdict']) => rows.filter((row) => row.verdict === verdict).length
  const differ = of('differs')
  if (differ > 0) return differ === 1 ? '1 differs' : `${differ} differ`
  if (of('running') > 0) return words.verdicts.running!
  if (of('waiting') > 0) return words.verdicts.waiting!
  if (of('accepted') > 0) return 'Some accepted'
  return of('agrees-with-notes') > 0 ? 'All agree, with notes' : 'All agree'
}

export function verdictTone(row: LedgerRow): Tone {
  const tones: Record<string, Tone> = {
    agrees: 'good',
    'agrees-with-notes': 'note',
    differs: 'bad',
    accepted: 'note',
    running: 'run',
    waiting: 'plain',
  }
  return tones[row.verdict]!
}

/**
 * What is not on its way and not over may be chosen, or left, until the sheet is signed; not while anything runs, but for
 * a kind that is whole while others are still counted in.
 */
export function mayChoose(
  {
    run,
    signedAt,
    calledOff,
    erasedAt,
    forecasts,
    isLook,
  }: Pick<TicketView, 'run' | 'signedAt' | 'calledOff' | 'erasedAt' | 'forecasts' | 'isLook'>,
  kind?: string,
): boolean {
  if (signedAt || calledOff || erasedAt || isLook) return false
  return !run || (run.type === 'count-in' && forecasts.some((forecast) => forecast.kind === kind))
}

function phoneName(phone: PhoneOnTicket): string {
  return `${words.sides[phone.side]} ${phone.model}${phone.port ? `, port ${phone.port}` : ''}`
}

/** What a phone that is not ready needs first. */
export function needLine(phone: PhoneOnTicket): string {
  return words.needs[phone.next ?? ''] ?? phone.next ?? ''
}

/** Waits that concern one kind and no other: which, is named. */
const ofOneKind: readonly string[] = ['PermissionMissing', 'CountNotMet', 'StillSettling', 'FileChanged', 'StorageFull']

/** What a run does now, with figures; or what it waits for. */
export function runLine(run: RunView, ticket: Pick<TicketSummary, 'old' | 'new'>): string {
  if (run.state === 'held') return 'Paused. What came over stays; it goes on from here when you resume.'
  if (run.state === 'paused') {
    const phone = run.side ? `${phoneName(ticket[run.side])}: ` : ''
    const sentence = run.reason && isErrorCode(run.reason) ? errors[run.reason].sentence : 'It waits.'
    const kind = run.kind && ofOneKind.includes(run.reason ?? '') ? `${words.kinds[run.kind] ?? run.kind}. ` : ''
    return phone + kind + sentence
  }
  if (run.state === 'waiting') return words.steps.waiting!
  const step = words.steps[run.step] ?? run.step
  const isCounted = run.total > 1 && run.step !== 'settling'
  const kind =
    run.kind && ['carrying', 'reading', 'recounting', 'counting', 'streaming', 'packing'].includes(run.step)
      ? ` ${words.many[run.kind] ?? run.kind}`
      : ''
  const amount = (n: number) => (run.unit === 'bytes' ? bytes(n) : number(n))
  return isCounted ? `${step}${run.step === 'carrying' ? kind : ''}, ${amount(run.done)} of ${amount(run.total)}` : step
}

export function leftLine(run: RunView): string {
  if (run.leftLowS === null || run.leftHighS === null) return ''
  return `${range(run.leftLowS, run.leftHighS)} left`
}

/** The answer to a ticket's first question: may I hand this over, and if not, what is next and how long. */
export function standingOf(ticket: Stood): Standing {
  const { tone, line, next, short } = standingOfPhones(ticket)
  const say = (text: string) => ofSides(text, { old: ticket.old.place, new: ticket.new.place })
  return { tone, line: say(line), next: say(next), short: say(short) }
}

type Stood = TicketSummary & { needsExchangeAnswer?: boolean; signedAt?: string | null; lastRun?: RunView | null }

function standingOfPhones(ticket: Stood): Standing {
  const { ledger, run, stage } = ticket
  if (ticket.isLook) {
    const what = run ? runLine(run, ticket) : ''
    const title =
      ticket.new.place === 'nothing'
        ? lookBoard.title(ticket.old.copy?.id ?? '')
        : lookBoard.comparing(nameOf(ticket.old), nameOf(ticket.new))
    const line = what ? `${title}: ${what}` : title
    return { tone: run ? 'run' : 'plain', line, next: '', short: what || line }
  }
  if (ticket.erasedAt)
    return { tone: 'plain', line: 'Handed back. The data is erased; these counts remain.', next: '', short: 'handed back, erased' }
  if (ticket.restingAt)
    return { tone: 'plain', line: 'Not yet: it rests, and both phones were given back.', next: 'Next: take it up again', short: 'Rests' }
  if (ticket.calledOff)
    return {
      tone: 'plain',
      line: 'Called off: nothing more is carried.',
      next: run ? runLine(run, ticket) : 'Next: erase the data',
      short: 'Called off',
    }
  if (run?.state === 'held') return { tone: 'note', line: `Not yet: ${runLine(run, ticket)}`, next: 'Next: resume', short: 'Paused' }
  if (run?.state === 'paused') {
    return {
      tone: 'note',
      line: `Not yet: ${runLine(run, ticket)}`,
      next: 'It goes on by itself.',
      short: run.side ? `${run.side === 'old' ? 'Old' : 'New'} phone waits` : 'Waits',
    }
  }
  if (run) {
    const what = runLine(run, ticket)
    return {
      tone: 'run',
      line: `Not yet: ${what}.`,
      next: leftLine(run),
      short:
        run.total > 1 && run.step === 'carrying'
          ? run.unit === 'bytes'
            ? `${bytes(run.done)} of ${bytes(run.total)}`
            : `${number(run.done)} of ${number(run.total)}`
          : what,
    }
  }
  if (ticket.straight?.stop && ['count-in', 'choose'].includes(stage)) {
    const why = stopWords(ticket.straight.stop.code)
    return { tone: 'note', line: `Not yet: straight through waits for you, as ${why}.`, next: '', short: `Decide: ${why}` }
  }
  const waiting = [ticket.old, ticket.new].filter((phone) => !phone.isReady)
  if (stage === 'make-ready') {
    const [first] = waiting
    const need = first ? needLine(first) : ''
    return {
      tone: 'note',
      line: 'Not yet: the phones are not ready.',
      next: first ? `${phoneName(first)}: ${need}` : '',
      short: need || 'make ready',
    }
  }
  if (stage === 'count-in') {
    const uncounted = ledger.filter((row) => row.new.first === null)
    const isAdded =
      uncounted.length < ledger.length && ledger.some((row) => row.new.last !== null || row.fates.carried + row.fates.changed > 0)
    if (isAdded) {
      const kinds = uncounted.map((row) => words.many[row.kind]).join(', ')
      return { tone: 'plain', line: `Not yet: ${kinds} are not counted.`, next: 'Next: count them in', short: 'To be counted in' }
    }
    return { tone: 'plain', line: 'Not yet: the phones are not counted.', next: 'Next: count both phones in', short: 'Ready to count in' }
  }
  const differing = ledger.filter((row) => row.verdict === 'differs')
  if (differing.length > 0) {
    const text = differing.map((row) => `${words.many[row.kind]} ${differenceOf(row)}`).join('; ')
    return { tone: 'bad', line: `Not yet: ${text}.`, next: 'Next: open the difference', short: text }
  }
  if (stage === 'hand-back') {
    const isAccepted = ledger.some((row) => row.verdict === 'accepted')
    const toInstall = leftToInstall(ledger)
    const list = toInstall > 0 ? ` ${number(toInstall)} ${toInstall === 1 ? 'app is' : 'apps are'} left to the customer’s list.` : ''
    const accepted = ledger.filter((row) => row.verdict === 'accepted')
    const line =
      (isAccepted
        ? `May be handed over: the customer accepts ${accepted.map((row) => `${words.many[row.kind]} ${differenceOf(row)}`).join('; ')}.`
        : 'May be handed over: the counts agree.') + list
    return {
      tone: isAccepted ? 'note' : 'good',
      line,
      next: ticket.signedAt ? 'Next: erase the data' : 'Next: have the sheet signed',
      short: ticket.signedAt ? 'Signed, data still here' : 'Agrees, sheet not signed',
    }
  }
  const waitingItems = stillToCarry(ledger)
  const pending = waitingItems.reduce((sum, { n }) => sum + n, 0)
  if (stage === 'carry-over') {
    const over = ledger.reduce((sum, { fates }) => sum + fates.carried + fates.changed + fates.merged, 0)
    const stopped = ticket.lastRun?.type === 'carry' && ticket.lastRun.state === 'stopped'
    const all = over + pending
    return pending > 0
      ? {
          tone: 'note',
          line: `Not yet: ${number(over)} of ${number(all)} carried${stopped ? ', then stopped' : ''}.`,
          next: `Next: carry the other ${number(pending)}`,
          short: `${number(over)} of ${number(all)}, ${stopped ? 'stopped' : 'waiting'}`,
        }
      : {
          tone: 'note',
          line: 'Not yet: the new phone must be counted afresh.',
          next: 'Next: check off',
          short: 'To be checked off',
        }
  }
  if (stage === 'check-off') {
    return pending > 0
      ? {
          tone: 'note',
          line: `Not yet: ${itemsOf(waitingItems)} still to be carried.`,
          next: 'Next: carry them',
          short: `${number(pending)} waiting`,
        }
      : {
          tone: 'note',
          line: 'Not yet: the new phone must be counted afresh.',
          next: 'Next: check off',
          short: 'To be checked off',
        }
  }
  return { tone: 'plain', line: 'Not yet: nothing is carried over.', next: 'Next: choose and carry over', short: 'Counted, to be chosen' }
}

/** What comes next; before the sheet is signed, what was changed for the move is put back. */
export function nextLineOf(ticket: TicketView): string {
  const open = [...ticket.ready.old.putBack, ...ticket.ready.new.putBack].filter((item) => item.state === 'open').length
  if (ticket.stage === 'hand-back' && !ticket.signedAt && open > 0) return `Next: put ${open} ${open === 1 ? 'setting' : 'settings'} back`
  return standingOf(ticket).next
}
