// @vitest-environment happy-dom
import { describe, expect, it, vi } from 'vitest'
import { eachAnew, show } from '../../../tests/setup/mount.ts'
import FileButton from '../../components/base/FileButton.vue'
import CrossTable from './CrossTable.vue'
import IntakeList from './IntakeList.vue'
import PhonePick from './PhonePick.vue'
import type { ListedPort } from './phone-choice.ts'

eachAnew()
const settle = () => new Promise((resolve) => setTimeout(resolve, 10))

describe('can it be taken', () => {
  const list = (answers: Record<string, string>) => show(IntakeList, { modelValue: answers })
  const verdict = (answers: Record<string, string>) => list(answers).wrapper.find('[data-testid=intake-verdict]')
  it('nothing is taken for asked that was not; one press says that nothing stands against it', async () => {
    expect(verdict({}).text()).toMatch(/\d/)
    const shown = list({})
    await shown.wrapper.find('button').trigger('click')
    const [[answers]] = shown.emitted('update:modelValue') as [[Record<string, string>]]
    expect(verdict(answers).classes()).toContain('text-verdigris')
    expect(verdict(answers).text()).not.toMatch(/not asked/i)
  })
  it('a phone that is reported lost is not taken, one whose screen half works is, and the customer is told what that means', () => {
    expect(verdict({ lost: 'yes' }).classes()).toContain('text-madder')
    expect(verdict({ screen: 'partly' }).classes()).toContain('text-ochre')
    expect(list({ screen: 'partly' }).text()).toContain('you have the old phone back as it is')
  })
})

describe('choosing files', () => {
  it('gives what was chosen, and lets go of it, so that the same can be chosen again; nothing chosen is no choice', async () => {
    const shown = show(FileButton, { label: 'Choose a folder', isFolder: true })
    const input = shown.wrapper.find<HTMLInputElement>('input[type=file]')
    let files = [new File(['x'], 'a.vcf')]
    Object.defineProperty(input.element, 'files', { get: () => files })
    Object.defineProperty(input.element, 'value', { get: () => '', set: () => (files = []) })
    await input.trigger('change')
    await input.trigger('change')
    const picked = shown.emitted('pick') as [File[]][]
    expect(picked.map(([some]) => some.map(({ name }) => name))).toEqual([['a.vcf']])
  })
})

describe('naming a phone', () => {
  const listed = (serial: string, change: object = {}, isGone = false): ListedPort =>
    ({
      isGone,
      port: {
        port: 3,
        station: 'bench',
        seenToday: null,
        phone: { maker: 'Orrin', model: 'Orrin 5', platform: 'android', version: '13', serial },
        ...change,
      },
    }) as unknown as ListedPort
  const models = [{ maker: 'Veyra', model: 'Veyra 12', platform: 'ios', versions: ['18', '17'] }]
  const pick = (side: 'old' | 'new', ports: ListedPort[]) => show(PhonePick, { side, ports, models, modelValue: null })
  const chosen = (shown: ReturnType<typeof pick>) => shown.emitted('update:modelValue').at(-1)?.[0]

  it('one in a port is named by its serial; one by its model has none', async () => {
    const shown = pick('old', [listed('S1')])
    await shown.wrapper.find('[role=radio]').trigger('click')
    expect(chosen(shown)).toMatchObject({ serial: 'S1', model: 'Orrin 5' })
    await shown.wrapper.find('select').setValue('Veyra|Veyra 12')
    expect(chosen(shown)).toMatchObject({ serial: null, model: 'Veyra 12', version: '18' })
  })
  it('a NEW phone that was on another ticket today is asked about first; an OLD one is not', async () => {
    const seen = listed('S1', { seenToday: 'T-9' })
    const asked = pick('new', [seen])
    await asked.wrapper.find('[role=radio]').trigger('click')
    await settle()
    expect(chosen(asked)).toBeUndefined()
    expect(asked.text()).toContain('T-9')
    const old = pick('old', [seen])
    await old.wrapper.find('[role=radio]').trigger('click')
    expect(chosen(old)).toMatchObject({ serial: 'S1' })
  })
  it('one that is no longer free stays listed and can’t be named; files are for the OLD side alone', async () => {
    const shown = pick('new', [listed('S1', {}, true)])
    await shown.wrapper.find('[role=radio]').trigger('click')
    expect(chosen(shown)).toBeUndefined()
    expect(shown.wrapper.find('input[type=file]').exists()).toBe(false)
    expect(pick('old', []).wrapper.find('input[type=file]').exists()).toBe(true)
  })
})

describe('what crosses', () => {
  it('is asked once both phones are named; an answer that was overtaken is not shown', async () => {
    const answers: ((kinds: unknown[]) => void)[] = []
    vi.stubGlobal('fetch', () => new Promise((resolve) => answers.push((kinds) => resolve({ ok: true, json: async () => ({ kinds }) }))))
    const choice = (model: string) => ({ place: 'bench', maker: 'M', model, platform: 'ios', version: '18', serial: null })
    const shown = show(CrossTable, { old: null, new: choice('A'), wanted: ['contacts'] })
    expect(answers).toHaveLength(0)
    await shown.wrapper.setProps({ old: choice('B') })
    await shown.wrapper.setProps({ old: choice('C') })
    await settle()
    expect(answers).toHaveLength(2)
    const crossing = (crosses: 'whole' | 'cannot') => [{ kind: 'contacts', crosses, rule: null, changes: [], limits: {}, isCarried: true }]
    answers[1]!(crossing('whole'))
    await settle()
    answers[0]!(crossing('cannot'))
    await settle()
    expect(shown.wrapper.find('[data-crossing=contacts]').attributes('data-state')).toBe('whole')
    vi.unstubAllGlobals()
  })
})
