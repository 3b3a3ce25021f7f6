import type { Needs } from '../../kinds/face.ts'
import { askedBy, faces } from '../../kinds/faces.ts'
import type { GuideFileInput, Platform } from '../guide-schema.ts'

/** What every phone needs, whatever its platform. */
export const commonNeeds: Needs = [
  {
    code: 'seen',
    title: 'Plug it in, so that it is seen',
    met: 'Seen on its port',
    side: 'both',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'must',
    steps: [{ say: 'Plug it into any numbered port, with a cable that carries data.', act: 'plug' }],
  },
  {
    code: 'set-up',
    title: 'Bring it past its welcome screen',
    met: 'Past its welcome screen',
    side: 'both',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'must',
    why: 'A phone at its welcome screen takes nothing.',
    steps: [
      { say: 'Turn it on.', act: 'turn-on' },
      { say: 'Go through the welcome screens without bringing anything over there, up to its home screen.', act: 'finish-welcome' },
    ],
  },
  {
    code: 'unlocked',
    title: 'Unlock it and keep its screen on',
    met: 'Unlocked',
    side: 'both',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'must',
    steps: [{ say: 'Unlock it and stay on its home screen.', act: 'unlock' }],
  },
  {
    code: 'charge',
    title: 'Charge it',
    met: 'Charged enough',
    side: 'both',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'must',
    why: 'Under 20% nothing starts unless it is charging: a phone that goes off in the middle is the slowest way.',
    steps: [{ say: 'Leave it on the charger, or plug it into a port that charges.', act: 'charge' }],
  },
  {
    code: 'charge-ample',
    title: 'Charge it to 80%',
    met: 'At least 80% charged',
    side: 'both',
    kinds: askedBy('charge-ample'),
    seenBy: 'phone',
    weight: 'warn',
    why: 'Photos and apps take long; a phone that charges meanwhile gets warm and slows down.',
    steps: [{ say: 'Charge it before long kinds are carried.', act: 'charge-full' }],
  },
  {
    code: 'cool',
    title: 'Let it cool down',
    met: 'Cool enough',
    side: 'both',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'must',
    why: 'From 40 °C it works at half its rate, at 45 °C it stops by itself.',
    steps: [{ say: 'Take its case off and lay it on a cool place.', act: 'cool-down' }],
  },
  {
    code: 'screen-stays-on',
    title: 'Keep its screen on for 30 minutes',
    met: 'Its screen stays on',
    side: 'both',
    kinds: 'all',
    seenBy: 'person',
    weight: 'warn',
    why: 'A phone that locks itself pauses the work.',
    steps: [{ say: 'In its display settings choose the longest screen time-out.', act: 'screen-stay-on' }],
    putBack: {
      title: 'Screen time-out as it was',
      steps: [{ say: 'In its display settings choose the former screen time-out.', act: 'screen-as-before' }],
    },
  },
  {
    code: 'fresh-copy',
    title: 'Make a fresh backup copy of its own',
    met: 'Has a fresh backup copy',
    side: 'old',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'warn',
    why: 'Nothing is taken from the old phone, but a copy of today is the customer’s safety.',
    steps: [{ say: 'In its settings start a backup copy to the customer’s own account, and wait until it says today.', act: 'make-copy' }],
  },
  {
    code: 'accounts-still',
    title: 'Pause accounts that fill the same kinds',
    met: 'Accounts stand still',
    side: 'new',
    kinds: askedBy('accounts-still'),
    seenBy: 'phone',
    weight: 'warn',
    why: 'An account that syncs while we carry puts the same items there twice.',
    steps: [{ say: 'In its account settings turn syncing off until the check off is done.', act: 'pause-accounts' }],
    putBack: { title: 'Accounts sync again', steps: [{ say: 'In its account settings turn syncing on again.', act: 'resume-accounts' }] },
  },
  {
    code: 'message-keep-time',
    title: 'Keep messages for ever',
    met: 'Keeps messages for ever',
    side: 'new',
    kinds: askedBy('message-keep-time'),
    seenBy: 'phone',
    weight: 'must',
    why: 'A keep-time of a year removes older messages as soon as they arrive.',
    steps: [{ say: 'In its message settings set how long messages are kept to “for ever”.', act: 'keep-messages-forever' }],
    putBack: {
      title: 'Message keep-time as it was',
      steps: [{ say: 'In its message settings choose the former keep-time, once the customer agrees.', act: 'keep-messages-as-before' }],
    },
  },
  {
    code: 'photos-whole',
    title: 'Keep photos at full size',
    met: 'Keeps photos at full size',
    side: 'new',
    kinds: askedBy('photos-whole'),
    seenBy: 'phone',
    weight: 'must',
    why: 'A phone that saves space replaces what arrives by small copies.',
    steps: [{ say: 'In its photo settings choose to keep full-size originals on the phone.', act: 'keep-photos-whole' }],
    putBack: {
      title: 'Photo size-saving as it was',
      steps: [{ say: 'In its photo settings choose the former saving.', act: 'keep-photos-as-before' }],
    },
  },
  {
    code: 'free-space',
    title: 'Free at least 1 GB',
    met: 'Has room',
    side: 'new',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'warn',
    why: 'A phone that runs full in the middle stops, or drops what it took without a word.',
    steps: [{ say: 'In its storage settings remove what the customer no longer needs, with the customer.', act: 'free-space' }],
  },
  {
    code: 'up-to-date',
    title: 'Let a waiting update run first',
    met: 'No update waits',
    side: 'new',
    kinds: 'all',
    seenBy: 'phone',
    weight: 'warn',
    why: 'An update that starts in the middle restarts the phone.',
    steps: [{ say: 'In its settings let the update run, or put it off until tomorrow.', act: 'update-waiting' }],
  },
  {
    code: 'account-signed-in',
    title: 'Have the customer sign in to the phone’s account',
    met: 'An account is signed in',
    side: 'new',
    kinds: askedBy('account-signed-in'),
    seenBy: 'phone',
    weight: 'must',
    why: 'Apps come from the store by the customer’s own account.',
    steps: [{ say: 'Let the customer sign in under accounts in its settings.', act: 'sign-in' }],
  },
  {
    code: 'flight-mode',
    title: 'Flight mode on while it is read',
    met: 'Flight mode is on',
    side: 'old',
    kinds: askedBy('flight-mode'),
    seenBy: 'person',
    weight: 'warn',
    why: 'Texts and calls that come in after its count are late, and hold the agreement up.',
    steps: [{ say: 'Pull its quick settings down and turn flight mode on; leave Bluetooth as it is.', act: 'flight-mode-on' }],
    putBack: {
      title: 'Flight mode off again',
      steps: [{ say: 'Pull its quick settings down and turn flight mode off.', act: 'flight-mode-off' }],
    },
  },
  {
    code: 'version-order',
    title: 'Update it: not older than the old phone',
    met: 'Its version is not older',
    side: 'new',
    kinds: askedBy('version-order'),
    seenBy: 'phone',
    weight: 'must',
    why: 'Between phones of one platform, app data of a newer version can’t be taken by an older one.',
    steps: [{ say: 'In its settings let it update, and wait until it has started anew.', act: 'update' }],
  },
  {
    code: 'cable-fast',
    title: 'Use a fast cable',
    met: 'A fast cable',
    side: 'both',
    kinds: askedBy('cable-fast'),
    seenBy: 'phone',
    weight: 'warn',
    why: 'A slow cable takes ten times as long for photos.',
    steps: [{ say: 'Take the short cable of the bench instead of the charger’s own.', act: 'other-cable' }],
  },
]

/** Causes that any phone on a cable can have. */
export const cableCauses: NonNullable<GuideFileInput['causes']> = [
  {
    code: 'no-power',
    when: 'unseen',
    title: 'It is off',
    look: 'Its screen stays dark when its side key is pressed.',
    steps: [{ say: 'Hold its side key until it starts.', act: 'turn-on' }],
  },
  {
    code: 'charge-only-cable',
    when: 'unseen',
    title: 'The cable only charges',
    look: 'It shows that it charges, and no question about the computer.',
    steps: [{ say: 'Take a cable of the bench, which carries data.', act: 'other-cable' }],
  },
  {
    code: 'port-asleep',
    when: 'unseen',
    title: 'Its port fell asleep',
    look: 'It was seen before, and nothing on it changed.',
    steps: [{ say: 'Pull the cable out, count to three, and plug it in again.', act: 'replug' }],
  },
]

export const silentCauses: NonNullable<GuideFileInput['causes']> = [
  {
    code: 'screen-locked',
    when: 'silent',
    title: 'It is locked',
    look: 'Its lock screen shows.',
    steps: [{ say: 'Unlock it.', act: 'unlock' }],
  },
  {
    code: 'question-open',
    when: 'silent',
    title: 'A question waits on its screen',
    look: 'It asks whether this computer may be trusted.',
    steps: [{ say: 'Answer the question with yes.', act: 'trust' }],
  },
  {
    code: 'question-gone',
    when: 'silent',
    title: 'The question was refused or went by',
    look: 'No question shows any more.',
    steps: [
      { say: 'Pull the cable out and plug it in again, then answer with yes.', act: 'replug' },
      { say: 'Answer the question with yes.', act: 'trust' },
    ],
  },
]

/** A permission for a kind, asked on the phone. */
function permission(kind: string, name: string, who: string): Needs[number] {
  return {
    code: `allow:${kind}`,
    title: `Let ${who} use ${name}`,
    met: `${who[0]!.toUpperCase()}${who.slice(1)} may use ${name}`,
    side: 'both',
    kinds: [kind, ...faces.flatMap(({ code, askedWith }) => (askedWith === kind ? [code] : []))],
    seenBy: 'phone',
    weight: 'must',
    steps: [{ say: `When the phone asks whether ${who} may use ${name}, answer “allow”.`, act: `allow-${kind}` }],
  }
}

/** A permission for each kind a phone asks about. */
export function permissions(who: string): Needs {
  return faces.flatMap(({ code, permission: name }) => (name ? [permission(code, name, who)] : []))
}

export function family(platform: Platform, part: Omit<GuideFileInput, 'match'>): GuideFileInput {
  return { ...part, match: { platform } }
}
