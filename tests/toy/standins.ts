import type { PhoneKind } from '#standins/kinds/phone-kind.ts'
import { phoneKinds } from '#standins/kinds/registry.ts'
import { toysOnPhones } from './phone.ts'

// the practice phones with one kind more: its line in their registry
;(phoneKinds as PhoneKind[]).push(toysOnPhones as PhoneKind)
await import('#standins/main.ts')
