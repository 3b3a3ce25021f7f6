import { standinModel, type StandinModel } from './models.ts'

/** A practice phone as its own database has it. */
export interface PhoneRow {
  serial: string
  model: string
  version: string
  region: string
  port: number | null
  is_locked: boolean
  trust: 'none' | 'asked' | 'trusted' | 'refused'
  asked_since: Date | null
  allows: string[]
  battery: number
  is_charging: boolean
  total_bytes: number
  free_bytes: number
  temperature: number
  settle_ms: number
  drops_when_full: boolean
  joins_equal: boolean
  marked_until: Date | null
  marked_text: string
  setup: 'in-box' | 'welcome' | 'set-up'
  is_on: boolean
  cable: 'data' | 'slow' | 'charge-only'
  is_asleep: boolean
  falls_back: boolean
  trust_once: boolean
  switches: Record<string, boolean>
  build_taps: number
  wants: { kinds: string[]; writes: boolean } | null
  wants_since: Date | null
  prompt_ms: number
  locks_after_ms: number | null
  touched_at: Date
  is_live: boolean
  heat_per_write: number
  sync_left: number
  has_work_area: boolean
  kind_revisions: Record<string, number>
  revision: number
  next_id: number
  position: number
}

export function modelOf(phone: Pick<PhoneRow, 'model'>): StandinModel {
  return standinModel(phone.model)!
}
