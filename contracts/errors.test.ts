import { describe, expect, it } from 'vitest'
import { errors } from './errors.ts'
import { linkFailures } from './link/index.ts'

describe('the table of errors', () => {
  it('has one sentence a technician can act on for each code, and no two alike', () => {
    const sentences = Object.values(errors).map((e) => e.sentence)
    expect(new Set(sentences).size).toBe(sentences.length)
    for (const sentence of sentences) expect(sentence).toMatch(/^[A-Z].{15,}[.]$/s)
  })

  it('knows every failure of the link', () => {
    for (const code of linkFailures) expect(Object.keys(errors)).toContain(code)
  })
})
