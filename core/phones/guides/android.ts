import { askedBy } from '../../kinds/faces.ts'
import type { GuideFileInput } from '../guide-schema.ts'
import { cableCauses, commonNeeds, family, permissions, silentCauses } from './common.ts'

/** Android phones of any maker; where a maker's settings stand elsewhere, its own guide says so. */
export const android: GuideFileInput[] = [
  family('android', {
    id: 'android',
    needs: [
      ...commonNeeds,
      {
        code: 'cable-files',
        title: 'Set its cable to carry files',
        met: 'The cable carries files',
        side: 'both',
        kinds: 'all',
        seenBy: 'phone',
        weight: 'must',
        why: 'At “charging only” the phone is not seen at all; many fall back to it when the cable is moved.',
        steps: [{ say: 'Pull its notifications down, press the line about the cable, and choose “files”.', act: 'cable-files' }],
      },
      {
        code: 'debugging',
        title: 'Turn USB debugging on',
        met: 'USB debugging is on',
        side: 'both',
        kinds: 'all',
        seenBy: 'phone',
        weight: 'must',
        why: 'It lets Corvend put its helper on the phone; it is turned off again at hand back.',
        steps: [
          {
            say: 'Open the settings, then “About phone”, and tap “Build number” seven times until it says that developer options are on.',
            act: 'tap-build-number',
            times: 7,
          },
          {
            say: 'Go back to the settings, open “System”, then “Developer options”, and turn “USB debugging” on.',
            act: 'turn-on-debugging',
          },
        ],
        putBack: {
          title: 'USB debugging and developer options off',
          steps: [
            { say: 'In “Developer options” turn “USB debugging” off.', act: 'turn-off-debugging' },
            { say: 'Turn “Developer options” off at its top.', act: 'turn-off-developer-options' },
          ],
        },
      },
      {
        code: 'trusted',
        title: 'Authorise this computer',
        met: 'Authorises this computer',
        side: 'both',
        kinds: 'all',
        seenBy: 'phone',
        weight: 'must',
        steps: [{ say: 'The phone asks whether to allow debugging from this computer: tick “always” and answer “allow”.', act: 'trust' }],
        putBack: {
          title: 'This computer is forgotten',
          steps: [{ say: 'In “Developer options” press “Revoke authorisations”.', act: 'forget-computers' }],
        },
      },
      {
        code: 'helper',
        title: 'Install Corvend’s helper',
        met: 'The helper is installed',
        side: 'both',
        kinds: 'all',
        seenBy: 'phone',
        weight: 'must',
        steps: [{ say: 'Corvend offers its helper: press “Install” on the phone.', act: 'install-helper' }],
        putBack: {
          title: 'The helper is removed',
          steps: [{ say: 'Hold the helper’s icon and choose “Uninstall”.', act: 'remove-helper' }],
        },
      },
      ...permissions('the helper'),
      {
        code: 'message-app',
        title: 'Make the helper the default message app',
        met: 'The helper is the default message app',
        side: 'new',
        kinds: askedBy('message-app'),
        seenBy: 'phone',
        weight: 'must',
        why: 'Only the default message app may write messages; new ones would go to the helper meanwhile.',
        steps: [
          { say: 'When the phone asks to make the helper the default message app, answer “set as default”.', act: 'message-app-helper' },
        ],
        putBack: {
          title: 'The phone’s own message app is the default again',
          steps: [{ say: 'In the settings, “Default apps”, choose the former message app.', act: 'message-app-own' }],
        },
      },
    ],
    causes: [
      {
        code: 'charging-only',
        when: 'unseen',
        title: 'The cable is set to “charging only”',
        look: 'Its notifications say that it is charging over the cable.',
        steps: [{ say: 'Pull its notifications down, press the line about the cable, and choose “files”.', act: 'cable-files' }],
      },
      {
        code: 'locked-before-cable',
        when: 'unseen',
        title: 'It was locked when the cable went in',
        look: 'Its lock screen shows; a locked phone only charges.',
        steps: [
          { say: 'Unlock it.', act: 'unlock' },
          { say: 'Pull its notifications down, press the line about the cable, and choose “files”.', act: 'cable-files' },
        ],
      },
      ...cableCauses,
      {
        code: 'at-welcome',
        when: 'unseen',
        title: 'It is at its welcome screen',
        look: 'It greets its owner and asks for a language.',
        steps: [
          { say: 'Go through the welcome screens without bringing anything over there, up to its home screen.', act: 'finish-welcome' },
        ],
      },
      {
        code: 'debugging-off',
        when: 'silent',
        title: 'USB debugging is off',
        look: 'No question about the computer comes up.',
        steps: [
          { say: 'Open “About phone” and tap “Build number” seven times.', act: 'tap-build-number', times: 7 },
          { say: 'In “Developer options” turn “USB debugging” on.', act: 'turn-on-debugging' },
        ],
      },
      ...silentCauses,
    ],
  }),
  {
    id: 'orrin',
    match: { platform: 'android', maker: 'Orrin' },
    needs: [
      {
        code: 'debugging',
        steps: [
          {
            say: 'Open the settings, “About phone”, then “Software”, and tap “Build number” seven times.',
            act: 'tap-build-number',
            times: 7,
          },
          {
            say: 'Back on the settings’ first page, at its very end, open “Developer options” and turn “USB debugging” on.',
            act: 'turn-on-debugging',
          },
        ],
      },
    ],
  },
  {
    id: 'tamsel',
    match: { platform: 'android', maker: 'Tamsel' },
    needs: [
      {
        code: 'debugging',
        steps: [
          { say: 'Open the settings, “My phone”, then “Versions”, and tap “Tamsel build” seven times.', act: 'tap-build-number', times: 7 },
          { say: 'Open “Additional settings”, then “Developer options”, and turn “USB debugging” on.', act: 'turn-on-debugging' },
        ],
      },
      {
        code: 'cable-files',
        why: 'A Tamsel falls back to “charging only” each time its cable is moved.',
        steps: [
          {
            say: 'On the sheet that slides up when the cable is plugged in, choose “Files”; if it is gone, pull the notifications down and press “Charging this device”.',
            act: 'cable-files',
          },
        ],
      },
    ],
    causes: [
      {
        code: 'charging-only',
        when: 'unseen',
        title: 'It fell back to “charging only”',
        look: 'It does so each time its cable is moved: a sheet about the cable slid up and went by.',
        steps: [{ say: 'Pull the notifications down, press “Charging this device” and choose “Files”.', act: 'cable-files' }],
      },
    ],
  },
  {
    id: 'tamsel-to-11',
    match: { platform: 'android', maker: 'Tamsel', versions: { from: 9, to: 11 } },
  },
  { id: 'orrin-4', match: { platform: 'android', maker: 'Orrin', model: 'Orrin 4', versions: { from: 11, to: 12 } } },
  { id: 'orrin-5', match: { platform: 'android', maker: 'Orrin', model: 'Orrin 5', versions: { from: 12, to: 13 } } },
  { id: 'orrin-7', match: { platform: 'android', maker: 'Orrin', model: 'Orrin 7', versions: { from: 13, to: 15 } } },
  { id: 'orrin-9', match: { platform: 'android', maker: 'Orrin', model: 'Orrin 9', versions: { from: 14, to: 16 } } },
  { id: 'tamsel-m1', match: { platform: 'android', maker: 'Tamsel', model: 'Tamsel M1', versions: { from: 9, to: 11 } } },
  { id: 'tamsel-m2', match: { platform: 'android', maker: 'Tamsel', model: 'Tamsel M2', versions: { from: 11, to: 12 } } },
  { id: 'tamsel-m3', match: { platform: 'android', maker: 'Tamsel', model: 'Tamsel M3', versions: { from: 13, to: 15 } } },
]
