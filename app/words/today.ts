import { type Shown } from './say.ts'

/** today/BenchStrip.vue */
export const benchStrip = {
  noTicket: 'no ticket',
  port: 'port',
  notReady: 'not ready',
}

/** today/RowMenu.vue */
export const rowMenu = {
  moreOf: (number: Shown) => `More of ${number}`,
  openSheet: 'Open the sheet',
}

/** today/TicketTable.vue */
export const ticketTable = {
  heads: { ticket: 'Ticket', customer: 'Customer', pair: 'Old → new', stage: 'Stage', stands: 'Stands at', left: 'Time left' },
  promised: 'Promised',
  note: (lastNote: Shown) => `Note: ${lastNote}`,
  handedBack: (handedBackAt: Shown) => `handed back ${handedBackAt}`,
}

/** index.vue */
export const todayPage = {
  benches: 'Benches',
  open: (n: Shown, late: Shown) => `${n} open, ${late}`,
  late: (n: Shown) => `${n} late`,
  find: 'Find a ticket, customer, phone or serial',
  findHint: 'Find a ticket, customer, phone or serial   /',
  portsInUse: (n: Shown, all: Shown) => `${n} of ${all} ports in use`,
  lookingAtPorts: 'Looking at the ports…',
  newOnPort: 'NEW, port',
  oldOnPort: 'OLD, port',
  byPromise: 'by promise',
  noMatch: 'No ticket matches. Press Esc to see all.',
  noTicketYet: 'No ticket yet today. Plug the customer’s phones in and',
  bookFirst: 'book the first one in',
  tabTitle: 'Today · Corvend',
  allWithinTheirPromise: 'all within their promise',
}
