/** Types of a message (message access profile 1.4, section 3.1.3): SMS in its two networks' forms, MMS, and chat. */
export const messageTypes = ['SMS_GSM', 'SMS_CDMA', 'MMS', 'IM'] as const
export type MessageType = (typeof messageTypes)[number]

/** Properties of a message object before its envelope. */
export const outerProperties = ['VERSION', 'STATUS', 'TYPE', 'FOLDER', 'NOTIFICATION-STATUS'] as const

/** Properties of a message's body. */
export const bodyProperties = ['PARTID', 'ENCODING', 'CHARSET', 'LANGUAGE', 'LENGTH'] as const

/** Attributes of an entry of a message listing that carry content (section 3.1.6), and ours that no version names. */
export const listingAttributes = [
  'handle',
  'datetime',
  'read',
  'sent',
  'direction',
  'conversation_name',
  'x_time',
  'x_line',
  'x_service',
] as const
export type ListingAttribute = (typeof listingAttributes)[number]
