import type { GuideFileInput } from '../guide-schema.ts'
import { commonNeeds, family } from './common.ts'

/** Keypad phones: they speak over Bluetooth alone, and hold little. */
export const keypad: GuideFileInput[] = [
  family('keypad', {
    id: 'keypad',
    needs: [
      ...commonNeeds.filter(
        ({ code }) =>
          ![
            'fresh-copy',
            'accounts-still',
            'message-keep-time',
            'photos-whole',
            'version-order',
            'cable-fast',
            'screen-stays-on',
            'free-space',
            'up-to-date',
            'account-signed-in',
            'flight-mode',
          ].includes(code),
      ),
      {
        code: 'seen',
        steps: [
          { say: 'Stand it in a numbered port to charge.', act: 'plug' },
          { say: 'In its menu, “Connections”, turn Bluetooth on and make it visible.', act: 'bluetooth-on' },
        ],
        putBack: {
          title: 'Bluetooth as it was',
          steps: [{ say: 'In its menu, “Connections”, turn Bluetooth off.', act: 'bluetooth-off' }],
        },
      },
      {
        code: 'set-up',
        steps: [
          { say: 'Turn it on.', act: 'turn-on' },
          { say: 'Set its clock and go to its home screen.', act: 'finish-welcome' },
        ],
      },
      {
        code: 'unlocked',
        title: 'Unlock its keys',
        met: 'Keys are unlocked',
        steps: [{ say: 'Press the middle key, then the star key.', act: 'unlock' }],
      },
      {
        code: 'trusted',
        title: 'Pair it with this bench',
        met: 'Paired with this bench',
        side: 'both',
        kinds: 'all',
        seenBy: 'phone',
        weight: 'must',
        steps: [{ say: 'Compare the code it shows with the one on its port, and press “yes”.', act: 'trust' }],
        putBack: {
          title: 'The pairing is removed',
          steps: [{ say: 'In its menu, “Connections”, “Paired devices”, delete this bench.', act: 'forget-computers' }],
        },
      },
    ],
    causes: [
      {
        code: 'bluetooth-hidden',
        when: 'unseen',
        title: 'Bluetooth is off or hidden',
        look: 'No Bluetooth sign stands at the top of its screen.',
        steps: [{ say: 'In its menu, “Connections”, turn Bluetooth on and make it visible.', act: 'bluetooth-on' }],
      },
      {
        code: 'no-power',
        when: 'unseen',
        title: 'It is off',
        look: 'Its screen stays dark when a key is pressed.',
        steps: [{ say: 'Hold its red key until it starts.', act: 'turn-on' }],
      },
      {
        code: 'at-welcome',
        when: 'unseen',
        title: 'It asks for its clock',
        look: 'It shows a clock to be set.',
        steps: [{ say: 'Set its clock and go to its home screen.', act: 'finish-welcome' }],
      },
      {
        code: 'port-asleep',
        when: 'unseen',
        title: 'The bench lost it',
        look: 'It was seen before, and nothing on it changed.',
        steps: [{ say: 'Take it out of its port and stand it in again.', act: 'replug' }],
      },
      {
        code: 'keys-locked',
        when: 'silent',
        title: 'Its keys are locked',
        look: 'It says so when a key is pressed.',
        steps: [{ say: 'Press the middle key, then the star key.', act: 'unlock' }],
      },
      {
        code: 'code-waits',
        when: 'silent',
        title: 'It shows a code and waits',
        look: 'Six digits stand on its screen.',
        steps: [{ say: 'Press “yes” when the code is the one on its port.', act: 'trust' }],
      },
      {
        code: 'code-gone',
        when: 'silent',
        title: 'The code was refused or went by',
        look: 'No code shows any more.',
        steps: [
          { say: 'Take it out of its port and stand it in again.', act: 'replug' },
          { say: 'Press “yes” when the code is the one on its port.', act: 'trust' },
        ],
      },
    ],
  }),
  { id: 'holt-3', match: { platform: 'keypad', maker: 'Holt', model: 'Holt 3', versions: { from: 1, to: 2 } } },
  {
    id: 'holt-5',
    match: { platform: 'keypad', maker: 'Holt', model: 'Holt 5', versions: { from: 2, to: 3 } },
  },
]
