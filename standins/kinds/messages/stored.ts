/** A message as a practice phone keeps it. */
export interface StoredMessage {
  way: 'in' | 'out'
  state: 'done' | 'draft' | 'failed'
  type: 'sms' | 'mms' | 'im'
  /** Whose chat service. */
  service: string
  atMs: number
  from: string
  to: string[]
  read: boolean
  line: number
  subject: string
  group: string
  text: string
  /** What it is a reaction to. */
  reaction: string | null
  /** `inside`: its bytes (base64), given in the message object itself and never by a handle. */
  parts: { type: string; name: string; handle: string; size: number; inside?: string }[]
}

/** A text that came in and says nothing yet. */
export const blankMessage: StoredMessage = {
  way: 'in',
  state: 'done',
  type: 'sms',
  service: '',
  atMs: 0,
  from: '',
  to: [],
  read: true,
  line: 1,
  subject: '',
  group: '',
  text: '',
  reaction: null,
  parts: [],
}

/** The maker's habits in giving and keeping messages. */
export interface MessageWay {
  /** How it says when: a local time, one with its offset, and besides it a number in milliseconds, or in seconds for MMS. */
  readonly time: 'local' | 'offset'
  readonly counter: 'none' | 'ms' | 'mixed'
  readonly folder: (name: string) => string
  readonly direction: boolean
  /** LENGTH in characters, as it should not be. */
  readonly countsCharacters: boolean
  readonly latin: boolean
  readonly quoted: boolean
  readonly newline: string
  /** MIME of MMS: nested with a layout, or flat. */
  readonly nested: boolean
  /** It keeps seconds. */
  readonly seconds: boolean
  readonly service: string
  readonly lines: number
  readonly groups: boolean
  readonly unsent: boolean
  readonly failed: boolean
  /** Longer texts become several records. */
  readonly most: number
}

const common = {
  newline: '\r\n',
  countsCharacters: false,
  latin: false,
  quoted: false,
  nested: false,
  seconds: false,
  direction: true,
} as const
export const messageWays: Readonly<Record<'orrin' | 'tamsel' | 'veyra' | 'holt', MessageWay>> = {
  orrin: {
    ...common,
    time: 'local',
    counter: 'mixed',
    folder: (name) => `telecom/msg/${name}`,
    service: 'android',
    lines: 2,
    groups: true,
    unsent: true,
    failed: true,
    most: 20_000,
  },
  tamsel: {
    ...common,
    time: 'local',
    counter: 'none',
    folder: (name) => `/TELECOM/MSG/${name.toUpperCase()}`,
    countsCharacters: true,
    latin: true,
    seconds: true,
    service: 'android',
    lines: 1,
    groups: false,
    unsent: true,
    failed: false,
    most: 1_000,
  },
  veyra: {
    ...common,
    time: 'offset',
    counter: 'ms',
    folder: (name) => `telecom/msg/${name}`,
    nested: true,
    service: 'ios',
    lines: 2,
    groups: true,
    unsent: false,
    failed: false,
    most: 20_000,
  },
  holt: {
    ...common,
    time: 'local',
    counter: 'none',
    folder: (name) => `telecom/msg/${name}`,
    direction: false,
    quoted: true,
    newline: '\n',
    seconds: true,
    service: '',
    lines: 1,
    groups: false,
    unsent: true,
    failed: false,
    most: 459,
  },
}
