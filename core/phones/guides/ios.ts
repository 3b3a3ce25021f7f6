import { askedBy } from '../../kinds/faces.ts'
import type { GuideFileInput } from '../guide-schema.ts'
import { cableCauses, commonNeeds, family, permissions, silentCauses } from './common.ts'

/** iOS phones. */
export const ios: GuideFileInput[] = [
  family('ios', {
    id: 'ios',
    needs: [
      ...commonNeeds,
      {
        code: 'trusted',
        title: 'Have it trust this computer',
        met: 'Trusts this computer',
        side: 'both',
        kinds: 'all',
        seenBy: 'phone',
        weight: 'must',
        steps: [{ say: 'Answer “trust” to the question about this computer, and enter the passcode.', act: 'trust' }],
        putBack: {
          title: 'This computer is no longer trusted',
          steps: [{ say: 'In the settings, “General”, “Reset”, choose to reset location and privacy.', act: 'forget-computers' }],
        },
      },
      ...permissions('this computer'),
      {
        code: 'encrypted-reading',
        title: 'Turn encrypted reading on',
        met: 'Encrypted reading is on',
        side: 'old',
        kinds: askedBy('encrypted-reading'),
        seenBy: 'phone',
        weight: 'must',
        why: 'Calls and some app data are given only in an encrypted reading; its password is the customer’s own.',
        steps: [
          { say: 'Let the customer enter a password for encrypted reading when the phone asks for it.', act: 'encrypted-reading-on' },
        ],
        putBack: {
          title: 'Encrypted reading as it was',
          steps: [{ say: 'Let the customer turn the password off again, or note it.', act: 'encrypted-reading-off' }],
        },
      },
      {
        code: 'anti-theft-off',
        title: 'Turn the anti-theft lock off',
        met: 'The anti-theft lock is off',
        side: 'new',
        kinds: askedBy('anti-theft-off'),
        seenBy: 'phone',
        weight: 'must',
        why: 'Messages are written while it is off; the customer’s account password turns it on again.',
        steps: [
          {
            say: 'In the settings, under the customer’s name, “Find”, turn the anti-theft lock off with the account password.',
            act: 'anti-theft-off',
          },
        ],
        putBack: {
          title: 'Anti-theft lock on again',
          steps: [{ say: 'Under the customer’s name, “Find”, turn the anti-theft lock on.', act: 'anti-theft-on' }],
        },
      },
      {
        code: 'passcode-off',
        title: 'Turn the passcode off',
        met: 'The passcode is off',
        side: 'new',
        kinds: askedBy('passcode-off'),
        seenBy: 'phone',
        weight: 'must',
        steps: [{ say: 'In the settings, “Passcode”, let the customer turn the passcode off.', act: 'passcode-off' }],
        putBack: {
          title: 'Passcode on again',
          steps: [{ say: 'In the settings, “Passcode”, let the customer set a passcode.', act: 'passcode-on' }],
        },
      },
      {
        code: 'chat-off',
        title: 'Turn the platform’s chat service off',
        met: 'The chat service is off',
        side: 'old',
        kinds: askedBy('chat-off'),
        seenBy: 'person',
        weight: 'must',
        why: 'Left on, later texts of other owners of this platform go to the old phone and are lost.',
        steps: [{ say: 'In the settings, “Messages”, turn the chat service off.', act: 'chat-off' }],
        putBack: {
          title: 'Chat service as the customer wants it',
          steps: [
            {
              say: 'Ask the customer whether the old phone is used on; if so, turn the chat service on again under “Messages”.',
              act: 'chat-on',
            },
          ],
        },
      },
      {
        code: 'second-step',
        title: 'Have account password and second step at hand',
        met: 'Account password and second step are at hand',
        side: 'both',
        kinds: askedBy('second-step'),
        seenBy: 'person',
        weight: 'must',
        steps: [{ say: 'Ask the customer for the account’s password and for the phone that receives its second step.' }],
      },
    ],
    causes: [...cableCauses, ...silentCauses],
  }),
  {
    id: 'ios-to-16',
    match: { platform: 'ios', versions: { from: 14, to: 16 } },
    needs: [
      {
        code: 'chat-off',
        steps: [
          { say: 'In the settings, “Messages”, turn the first switch off, then sign out under “Send and receive”.', act: 'chat-off' },
        ],
      },
      {
        code: 'trusted',
        putBack: {
          title: 'This computer is no longer trusted',
          steps: [{ say: 'In the settings, “General”, “Reset”, choose to reset location.', act: 'forget-computers' }],
        },
      },
    ],
  },
  { id: 'veyra-9', match: { platform: 'ios', maker: 'Veyra', model: 'Veyra 9', versions: { from: 14, to: 16 } } },
  { id: 'veyra-10', match: { platform: 'ios', maker: 'Veyra', model: 'Veyra 10', versions: { from: 15, to: 17 } } },
  { id: 'veyra-12', match: { platform: 'ios', maker: 'Veyra', model: 'Veyra 12', versions: { from: 17, to: 18 } } },
  { id: 'veyra-14', match: { platform: 'ios', maker: 'Veyra', model: 'Veyra 14', versions: { from: 18, to: 19 } } },
]
