/** Something a message carries beside its text; its bytes come by a handle of their own. */
export interface Attachment {
  readonly type: string
  readonly name: string
  readonly handle: string
  readonly sizeBytes: number
  /** Of its bytes, once they were streamed; empty before. */
  readonly digest: string
}

/** One message: SMS, MMS or of a platform's chat service. */
export interface Message {
  readonly direction: 'in' | 'out'
  /** done: sent or received. */
  readonly state: 'done' | 'draft' | 'failed'
  readonly service: 'sms' | 'mms' | 'chat'
  /** Whose chat service; empty for SMS and MMS. */
  readonly chatOf: string
  /** Milliseconds since 1970; to the second where the phone says no more. */
  readonly atMs: number
  /** Who wrote it, as the phone gave it; empty when the owner did. */
  readonly from: string
  /** The others it went to; the owner is not among them. */
  readonly to: readonly string[]
  readonly isRead: boolean
  /** Which of the phone's lines, from 1; 0 where it does not say. */
  readonly line: number
  readonly subject: string
  /** What its group is called. */
  readonly group: string
  readonly text: string
  /** It is a reaction (RFC 9078), and this is what to. */
  readonly reactionTo: string | undefined
  readonly attachments: readonly Attachment[]
}

export function isGroup({ from, to }: Message): boolean {
  return to.length + (from === '' ? 0 : 1) > 1
}
