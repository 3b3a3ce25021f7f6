import { type Shown } from './say.ts'

/** receipt/[number].vue */
export const receiptPage = {
  erased: 'erased',
  printReceipt: 'Print the receipt',
  paper: 'Paper',
  byHand: 'By hand',
  takenIn: 'Taken in',
  cantCrossBetweenThese: 'Can’t cross between these phones',
  whatYouBring: 'What you bring',
  tabTitle: (number: Shown) => `Receipt ${number} · Corvend`,
  passcodes:
    'The passcode of both phones in your head, and the passwords of your accounts: you type them in yourself, we never write them down.',
}
