import { androidDialect } from './android.ts'
import type { Dialect } from './dialect.ts'
import { holtDialect } from './holt.ts'
import { iosDialect } from './ios.ts'

export const dialects: Readonly<Record<'orrin' | 'tamsel' | 'veyra' | 'holt', Dialect>> = {
  orrin: androidDialect({ latin: false, ownLabel: 'brackets' }),
  tamsel: androidDialect({ latin: true, ownLabel: 'group' }),
  veyra: iosDialect,
  holt: holtDialect,
}
