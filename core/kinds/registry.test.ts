import { expect, it } from 'vitest'
import { faces } from './faces.ts'
import { kinds } from './registry.ts'

it('every kind has its face, in the same order', () => {
  expect(faces.map(({ code }) => code)).toEqual(kinds.map(({ code }) => code))
  for (const [i, face] of faces.entries()) expect(kinds[i]).toMatchObject(face)
})
