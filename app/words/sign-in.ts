/** first-start.vue */
export const firstStartPage = {
  setShopUp: 'Set the shop up',
  lead: 'Nobody works here yet. This is asked once; all of it can be changed under Settings.',
  shopName: 'Name, as it stands on the sheet',
  you: 'You',
  yourName: 'Your name',
  yourPin: 'Your PIN, 4 to 12 digits',
  pinAgain: 'The PIN again',
  openShop: 'Open the shop',
  tabTitle: 'Set the shop up · Corvend',
  pinLength: 'A PIN has 4 to 12 digits.',
  pinsDiffer: 'The two PINs are not the same. Type them again.',
}

/** sign-in.vue */
export const signInPage = {
  lead: 'Counts that agree, phone to phone.',
  pin: 'PIN',
  signIn: 'Sign in',
}
