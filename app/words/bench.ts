import { type Shown } from './say.ts'

/** bench/PortCard.vue */
export const portCard = {
  port: 'port',
  charging: ', charging',
  free: (freeBytes: Shown) => `, ${freeBytes} free`,
  workArea: 'A work area is on it; it is not read.',
  withPort: (partner: Shown) => `, with port ${partner}`,
  noTicketNamesIt: 'No ticket names it.',
  itIs: (ticket: Shown, side: Shown) => `It is ${ticket}’s ${side}`,
  bookItIn: 'Book it in',
  showOnIt: (role: Shown) => `Show “${role}” on it`,
  causes: 'Its ticket’s Make ready leads through the likely causes; without a ticket, see the guide of its maker.',
  notReady: 'Not ready',
}

/** bench.vue */
export const benchPage = {
  awaitedOnBench: 'Awaited on the bench',
  namedByItsModel: 'named by its model only',
  tabTitle: 'Bench · Corvend',
  someWait: (waits: number, used: Shown) => `${waits} of ${used} ports in use ${waits === 1 ? 'waits' : 'wait'} for a finger.`,
  noneWaits: (used: Shown, all: Shown) => `${used} of ${all} ports in use, none waits for a finger.`,
  nothingPluggedIn: 'Nothing is plugged in.',
}
