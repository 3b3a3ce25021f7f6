import { onScopeDispose, ref } from 'vue'
import { errors, isErrorCode } from '#contracts/errors.ts'
import { items as sayItems } from '../../words/say.ts'
import type { Preview } from '../../workers/preview.worker.ts'
import type { PhoneChoice } from './phone-choice.ts'

/** “312 contacts and 40 calendar items” */
export function fileHolds(held: Readonly<Partial<Record<string, number>>>): string {
  const some = Object.entries(held).flatMap(([kind, n]) => (n ? [sayItems(kind, n)] : []))
  return some.join(' and ') || 'nothing Corvend takes'
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
      const response = await fetch('/api/uploads', { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: file })
      const answer = (await response.json()) as { upload: string; items: Record<string, number>; code?: string }
      if (!response.ok) throw new Error(answer.code)
      if (mine === asked)
        taken({
          link: 'file',
          maker: 'File',
          model: 'File',
          platform: 'file',
          version: '',
          serial: null,
          upload: answer.upload,
          held: answer.items,
        })
    } catch (error) {
      const { message } = error as Error
      if (mine === asked) sentence.value = isErrorCode(message) ? errors[message].sentence : 'The file could not be read. Try again.'
    } finally {
      if (mine === asked) {
        isReading.value = false
        stop()
      }
    }
  }
  return { sentence, isReading, preview, take }
}
