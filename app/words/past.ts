import { type Shown } from './say.ts'

/** past.vue */
export const pastPage = {
  erased: 'erased',
  pastTickets: 'Past tickets',
  number: 'Number',
  serialOfPhone: 'Serial of a phone',
  model: 'Model',
  from: 'From',
  workedOnBy: 'Worked on by',
  anybody: 'Anybody',
  howItEnded: 'How it ended',
  any: 'Any',
  noTicketAnswers: (serialDays: Shown) =>
    `No ticket answers to that. A phone’s serial is known for ${serialDays} days after it was handed back.`,
  ticket: 'Ticket',
  oldNew: 'Old → new',
  by: 'By',
  inShop: 'in the shop',
  callOff: (number: Shown) => `Call off… ${number}`,
  callOffMore: 'Call off…',
  tabTitle: 'Past tickets · Corvend',
  cameOver: (cameOver: Shown, read: Shown) => `${cameOver} of ${read} came over`,
  nothingRead: 'nothing read',
}
