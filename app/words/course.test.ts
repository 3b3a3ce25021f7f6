import { describe, expect, it } from 'vitest'
import { actCodes, type ActView } from '#contracts/http/course.ts'
import { stopCodes } from '#core/plan/straight.ts'
import { actGroups, actLine, stopWords } from './course.ts'

const act: ActView = {
  at: '',
  by: 'Rowan',
  what: 'booked',
  side: 'old',
  kind: 'photos',
  code: 'favourites',
  why: null,
  title: null,
  to: null,
  phone: null,
  n: null,
  of: null,
  words: null,
  hasWords: false,
}

describe('the course in words', () => {
  it.each(actCodes)('%s has its line, and is in one group', (what) => {
    const line = actLine({ ...act, what })
    expect(line).toMatch(/^[A-Z]/)
    expect(line).not.toMatch(/undefined|null|\.\.$/)
    expect(Object.values(actGroups).filter((codes) => codes.includes(what))).toHaveLength(1)
  })
  it.each(stopCodes)('what it waits for is said: %s', (code) => expect(stopWords(code)).not.toBe(code))
  it.each<[Partial<ActView>, string]>([
    [{ what: 'ended', code: 'carry', n: 1161, of: 2359 }, 'Carrying ended, 1,161 of 2,359'],
    [{ what: 'ended', code: 'count-in', n: 900, of: 900 }, 'Count in ended, 900'],
    [
      { what: 'waits', code: 'carry', side: 'new', why: 'StorageFull' },
      'Carrying waited, NEW phone: The phone’s storage is full. Free some space on it, then go on.',
    ],
    [{ what: 'chosen', code: 'some', n: 1 }, 'Photos: 1 item chosen or left'],
    [{ what: 'need-waived', code: 'trusted', why: 'customer-knows' }, 'OLD phone: “'],
  ])('%o', (part, line) => expect(actLine({ ...act, ...part })).toContain(line))
})
