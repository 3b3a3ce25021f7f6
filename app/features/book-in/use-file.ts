import { onScopeDispose, ref } from 'vue'
import { routes } from '#contracts/http/routes.ts'
import { api, ApiFailure } from '../../composables/use-api.ts'
import { items as sayItems, together } from '../../words/say.ts'
import type { Preview } from '../../workers/preview.worker.ts'
import type { PhoneChoice } from './phone-choice.ts'
import { useFile as said } from '../../words/book-in.ts'

/** “312 contacts and 40 calendar items” */
export function fileHolds(held: Readonly<Partial<Record<string, number>>>): string {
  const some = Object.entries(held).flatMap(([kind, n]) => (n ? [sayItems(kind, n)] : []))
  return together(some) || said.notTaken
}

/** A dropped file: looked at in a worker at once, while the shop's server takes it in. What it is called stays here. */
export function useFile(taken: (choice: PhoneChoice) => void) {
  const sentence = ref('')
  const isReading = ref(false)
  const preview = ref<Preview | null>(null)
  let worker: Worker | undefined
  let asked = 0
  const stop = () => worker?.terminate()
  onScopeDispose(stop)

  function look(file: File) {
    stop()
    preview.value = null
    worker = new Worker(new URL('../../workers/preview.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = (event: MessageEvent<Preview>) => (preview.value = event.data)
    worker.postMessage(file)
  }
  async function take(file: File | undefined) {
    if (!file) return
    const mine = ++asked
    isReading.value = true
    sentence.value = ''
    look(file)
    try {
      const answer = await api(routes.takeUpload, { body: file })
      if (mine === asked)
        taken({
          place: 'file',
          maker: said.file,
          model: said.file,
          platform: 'file',
          version: '',
          serial: null,
          upload: answer.upload,
          held: answer.items,
        })
    } catch (error) {
      if (mine === asked) sentence.value = error instanceof ApiFailure ? error.sentence : said.notRead
    } finally {
      if (mine === asked) {
        isReading.value = false
        stop()
      }
    }
  }
  return { sentence, isReading, preview, take }
}
