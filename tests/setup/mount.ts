import { mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach } from 'vitest'
import type { Component } from 'vue'

/** What a component shows, as a person reads it, and what can be pressed in it. */
export interface Shown {
  readonly wrapper: VueWrapper
  /** All of its words, with single spaces. */
  text(): string
  /** Names of the buttons that can be pressed. */
  buttons(): string[]
  /** Names of the buttons that can't. */
  barred(): string[]
  press(name: string | RegExp): Promise<void>
  type(label: string | RegExp, text: string): Promise<void>
  tick(label: string | RegExp): Promise<void>
  /** What it emitted by that name, each time. */
  emitted(name: string): unknown[][]
}

const plain = (text: string) => text.replace(/\s+/g, ' ').trim()
const isNamed = (name: string | RegExp) => (text: string) => (typeof name === 'string' ? plain(text) === name : name.test(plain(text)))
let mounted: VueWrapper[] = []

/** Mounted components are taken away after each test; stores begin anew. */
export function eachAnew(): void {
  beforeEach(() => setActivePinia(createPinia()))
  afterEach(takeAway)
}

function takeAway(): void {
  for (const one of mounted) one.unmount()
  mounted = []
}

/** Vue takes no press for a handler that was put there within the same millisecond: no hand is that fast, a test is. */
function passAMoment(): void {
  for (const from = performance.now(); performance.now() - from < 2;);
}

/** Mounts a component alone, in a page that has nothing else: what was shown before goes. */
export function show(component: Component, props: Record<string, unknown>, slots: Record<string, () => unknown> = {}): Shown {
  takeAway()
  const link = { props: ['to'], template: '<a :href="typeof to === `string` ? to : to.path"><slot /></a>' }
  const wrapper = mount(component, { props, slots, attachTo: document.body, global: { stubs: { NuxtLink: link } } }) as VueWrapper
  mounted.push(wrapper)
  passAMoment()
  const settled = async () => {
    await wrapper.vm.$nextTick()
    passAMoment()
  }
  // dialogs stand beside what opened them
  const root = () => document.body
  const all = () => [...root().querySelectorAll('button')]
  const nameOf = (button: Element) => plain(button.getAttribute('aria-label') ?? button.textContent ?? '')
  const fieldOf = (label: string | RegExp): HTMLInputElement => {
    const found = [...root().querySelectorAll('label')].find((one) => isNamed(label)(one.textContent ?? ''))
    if (!found) throw new Error(`no field ${label} in: ${plain(root().textContent ?? '')}`)
    return found.querySelector<HTMLInputElement>('input, textarea, select')!
  }
  return {
    wrapper,
    text: () => plain(root().textContent ?? ''),
    buttons: () =>
      all()
        .filter((button) => !button.disabled)
        .map(nameOf),
    barred: () =>
      all()
        .filter((button) => button.disabled)
        .map(nameOf),
    async press(name) {
      const button = all().find((one) => !one.disabled && isNamed(name)(nameOf(one)))
      if (!button) throw new Error(`no button ${name} among: ${all().map(nameOf).join(' | ')}`)
      button.click()
      await settled()
    },
    async type(label, text) {
      const field = fieldOf(label)
      field.value = text
      field.dispatchEvent(new Event('input', { bubbles: true }))
      await settled()
    },
    async tick(label) {
      fieldOf(label).click()
      await settled()
    },
    emitted: (name) => (wrapper.emitted(name) ?? []) as unknown[][],
  }
}
