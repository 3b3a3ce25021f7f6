import type { ActCode } from '#contracts/http/course.ts'
import type { StaffId } from './ids.ts'

/** Who does something: a member of staff. */
export interface Actor {
  readonly id: StaffId
  readonly name: string
}

/** What is noted in the course of a ticket. */
export interface Did {
  readonly what: ActCode
  readonly side?: 'old' | 'new' | undefined
  readonly kind?: string | undefined
  readonly code?: string | undefined
  readonly why?: string | undefined
  readonly toStaffId?: StaffId | undefined
  /** Model of a phone. */
  readonly phone?: string | undefined
  readonly n?: number | undefined
  readonly of?: number | undefined
  /** Sealed. */
  readonly words?: Buffer | undefined
}
