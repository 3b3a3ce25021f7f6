import { type Shown } from './say.ts'

/** composables/use-api.ts */
export const useApi = {
  away: 'Corvend does not answer. What runs goes on; this page looks again by itself.',
  tryAgain: 'Try again.',
}

/** composables/use-notice.ts */
export const useNotice = {
  run: (n: Shown) => `${n} run`,
  of: (done: Shown, all: Shown) => `${done} of ${all}`,
  runs: 'runs',
  corvend: (number: Shown) => `Corvend: ${number}`,
}

/** error.vue */
export const errorPage = {
  thisPageBroke: 'This page broke',
  thereIsNoSuch: 'There is no such page',
  nothingWasLost: 'Nothing was lost: what runs goes on.',
  addressMayBeMistyped: 'The address may be mistyped, or the ticket has another number.',
  toToday: 'To Today',
  noSuchPageCorvend: 'No such page · Corvend',
}

/** base/OldNew.vue */
export const oldNew = {
  to: 'to',
}

/** base/PasswordTwice.vue */
export const passwordTwice = {
  onceMore: 'Once more',
  notSame: 'The two are not the same.',
}
