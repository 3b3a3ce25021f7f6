import { number, type Shown } from '../../words/say.ts'

/** AppsBoard.vue */
export const appsBoard = {
  appByApp: 'App by app',
  sums: (toInstall: Shown, installed: Shown, tied: Shown) =>
    `${toInstall} on the install list, ${installed} installed, ${tied} tied to the old phone`,
  tiedToOldPhone: (tiedOpen: number) =>
    `${number(tiedOpen)} ${tiedOpen === 1 ? 'app is' : 'apps are'} tied to the old phone: the customer moves ${tiedOpen === 1 ? 'it' : 'them'} by hand before it is wiped.`,
  apps: 'Apps',
  use: 'Use',
  whatBecomes: (model: Shown) => `What becomes of it on the ${model}`,
  tiedHead: 'Tied to the old phone',
  hiddenNameNo: (position: Shown) => `hidden name, no. ${position}`,
  shopsChoice: '(the shop’s choice)',
  chooseAnother: (how: Shown, position: Shown) => `${how} for app ${position}: choose another counterpart`,
  toBeMoved: 'to be moved by hand',
  movedByHand: 'moved by hand',
  whatStands: 'What stands in for it',
  standsInFor: 'For',
  shopRemembers: '. The shop remembers what you choose, for every later ticket.',
  candidates: 'Candidates',
  candidate: (maker: Shown, price: Shown, canInstall: boolean) => `by ${maker}, ${price}${canInstall ? '' : ', can’t be installed here'}`,
  takeThisOne: 'Take this one',
  chosenNow: 'chosen now',
  noneOfThemStands: 'None of them stands in for it',
  installed: 'installed',
  manyCandidates: (shown: Shown, n: number) => `${shown} ${n === 1 ? 'candidate' : 'candidates'}…`,
  onInstallList: 'on the install list',
}
