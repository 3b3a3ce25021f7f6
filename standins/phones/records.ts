import type { RecordDialect } from '../kinds/phone-kind.ts'
import { phoneKind } from '../kinds/registry.ts'
import { modelOf, type PhoneRow } from './phone.ts'

/** @returns undefined when this phone has no such kind */
export function recordsOf(phone: Pick<PhoneRow, 'model'>, kind: string): RecordDialect | undefined {
  return phoneKind(kind)?.on(modelOf(phone))
}
