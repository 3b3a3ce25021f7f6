export interface HandPhone {
  readonly serial: string
  readonly maker: string
  readonly model: string
  readonly platform: 'android' | 'ios'
  readonly version: string
  readonly port: number | null
  readonly isLocked: boolean
  readonly trust: 'none' | 'asked' | 'trusted' | 'refused'
  readonly allowsContacts: boolean
  readonly battery: number
  readonly isCharging: boolean
  readonly freeBytes: number
  readonly totalBytes: number
  readonly temperature: number
  readonly dropsWhenFull: boolean
  readonly joinsEqual: boolean
  readonly contacts: number
  readonly persons: number
  readonly derived: number
  readonly faults: readonly { point: string; effect: string; skip: number; times: number }[]
}

export interface FaultPoint {
  readonly point: string
  readonly operation: string
  readonly effects: readonly string[]
}
