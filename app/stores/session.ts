import type { z } from 'zod'
import { calls } from '#contracts/http/calls.ts'
import type { routes } from '#contracts/http/routes.ts'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api } from '../composables/use-api.ts'
import { writeDatesIn } from '../words/say.ts'

export type Session = z.output<typeof routes.whoAmI.reply>

/** Who is signed in, and the shop. */
export const useSession = defineStore('session', () => {
  const session = ref<Session | null>(null)
  async function load() {
    session.value ??= await api(calls.whoAmI)
    writeDatesIn(session.value.shop.locale)
    return session.value
  }
  async function signIn(name: string, pin: string) {
    await api(calls.signIn, { body: { name, pin } })
    session.value = null
    return load()
  }
  async function signOut() {
    await api(calls.signOut)
    session.value = null
  }
  /** What was changed of the shop’s settings. */
  function keepShop(changed: Partial<Session['shop']>) {
    if (session.value) session.value = { ...session.value, shop: { ...session.value.shop, ...changed } }
    if (changed.locale) writeDatesIn(changed.locale)
  }
  return { session, load, signIn, signOut, keepShop }
})
