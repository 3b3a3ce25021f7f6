import { ref, watch, type Ref } from 'vue'
import type { AppsView, CandidatesView } from '#contracts/http/media.ts'
import { api, ApiFailure } from '../../composables/use-api.ts'

/** The apps of a ticket and what becomes of each. @param stamp changes when they should be looked at again */
export function useApps(number: Ref<string>, stamp: Ref<unknown>) {
  const view = ref<AppsView | null>(null)
  const sentence = ref('')
  let turn = 0
  async function look() {
    const mine = ++turn
    try {
      const answer = await api<AppsView>(`tickets/${number.value}/apps`)
      if (mine === turn) view.value = answer
    } catch (error) {
      if (mine === turn) sentence.value = error instanceof ApiFailure ? error.sentence : 'Try again.'
    }
  }
  const act = async (path: string, body: unknown) => {
    sentence.value = ''
    try {
      await api(`tickets/${number.value}/apps/${path}`, { body })
    } catch (error) {
      sentence.value = error instanceof ApiFailure ? error.sentence : 'Try again.'
    }
    await look()
  }
  watch([number, stamp], look, { immediate: true })
  return {
    view,
    sentence,
    candidates: (key: string) => api<CandidatesView>(`tickets/${number.value}/apps/candidates`, { body: { key } }),
    choose: (key: string, counterpartId: string | null) => act('counterpart', { key, counterpartId }),
    moved: (key: string, isMoved: boolean) => act('moved', { key, isMoved }),
  }
}
