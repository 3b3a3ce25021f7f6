import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api } from '../composables/use-api.ts'

export interface Session {
  readonly name: string
  readonly initials: string
  readonly shop: { readonly name: string; readonly address: string; readonly zone: string }
  readonly hasPractice: boolean
}

/** Who is signed in, and the shop. */
export const useSession = defineStore('session', () => {
  const session = ref<Session | null>(null)
  async function load() {
    session.value ??= await api<Session>('session')
    return session.value
  }
  async function signIn(name: string, pin: string) {
    await api('session', { body: { name, pin } })
    session.value = null
    return load()
  }
  async function signOut() {
    await api('session', { method: 'DELETE' })
    session.value = null
  }
  return { session, load, signIn, signOut }
})
