import { calls } from '#contracts/http/calls.ts'
import { ref, watch, type Ref } from 'vue'
import type { AppsView } from '#contracts/http/media.ts'
import { api, sentenceOf } from '../../composables/use-api.ts'

/** The apps of a ticket and what becomes of each. @param stamp changes when they should be looked at again */
export function useApps(number: Ref<string>, stamp: Ref<unknown>) {
  const view = ref<AppsView | null>(null)
  const sentence = ref('')
  let turn = 0
  const params = () => ({ number: number.value })
  async function look() {
    const mine = ++turn
    try {
      const answer = await api(calls.apps, { params: params() })
      if (mine === turn) view.value = answer
    } catch (error) {
      if (mine === turn) sentence.value = sentenceOf(error)
    }
  }
  const act = async (ask: () => Promise<unknown>) => {
    sentence.value = ''
    try {
      await ask()
    } catch (error) {
      sentence.value = sentenceOf(error)
    }
    await look()
  }
  watch([number, stamp], look, { immediate: true })
  return {
    view,
    sentence,
    candidates: (key: string) => api(calls.candidates, { params: params(), body: { key } }),
    choose: (key: string, counterpartId: string | null) =>
      act(() => api(calls.chooseCounterpart, { params: params(), body: { key, counterpartId } })),
    moved: (key: string, isMoved: boolean) => act(() => api(calls.markMoved, { params: params(), body: { key, isMoved } })),
  }
}
