import { expect, it } from 'vitest'
import { kindCodes } from './codes.ts'
import { kinds } from './registry.ts'

it('the codes are those of the registry, in its order', () => {
  expect(kindCodes).toEqual(kinds.map((kind) => kind.code))
})
