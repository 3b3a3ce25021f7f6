import { onScopeDispose, ref } from 'vue'
import { errors, isErrorCode } from '#contracts/errors.ts'
import { calls } from '#contracts/http/calls.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import type { UploadView } from '#contracts/http/uploads.ts'
import { api, sentenceOf } from '../../composables/use-api.ts'
import { items as sayItems, together } from '../../words/say.ts'
import type { Preview, PreviewWish } from '../../workers/preview.worker.ts'
import type { PhoneChoice } from './phone-choice.ts'
import { useFile as said } from '../../words/book-in.ts'

/** A file as it was chosen, with the folders it lies in. */
export interface Chosen {
  readonly path: string
  readonly file: File
}

/** “312 contacts and 40 calendar items” */
export function fileHolds(held: Readonly<Partial<Record<string, number>>>): string {
  const some = kindCodes.flatMap((kind) => (held[kind] ? [sayItems(kind, held[kind])] : []))
  return together(some) || said.notTaken
}

const pieceBytes = 8_388_608
const beginningBytes = 65_536
/** Kept in this tab alone: which upload broke off. */
const brokenOff = 'corvend.upload'

async function beginningOf(file: File): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', await file.slice(0, beginningBytes).arrayBuffer()))
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** Chosen files: looked at in a worker at once, while the shop's server takes them in, piece by piece. What they say stays here. */
export function useFile(taken: (choice: PhoneChoice) => void) {
  const sentence = ref('')
  const isReading = ref(false)
  const preview = ref<Preview | null>(null)
  /** How much of all is there. */
  const progress = ref<{ gotBytes: number; sizeBytes: number } | null>(null)
  const view = ref<UploadView | null>(null)
  const hasBrokenOff = ref(false)
  let worker: Worker | undefined
  let asked = 0
  const stop = () => worker?.terminate()
  onScopeDispose(stop)

  function look(files: readonly Chosen[]) {
    stop()
    preview.value = null
    worker = new Worker(new URL('../../workers/preview.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = (event: MessageEvent<Preview>) => (preview.value = event.data)
    worker.postMessage({ files: [...files] } satisfies PreviewWish)
  }
  /** An upload of this tab that broke off; it goes on with the same files. */
  function remember() {
    hasBrokenOff.value = sessionStorage.getItem(brokenOff) !== null
  }
  async function begin(files: readonly Chosen[]) {
    const wish: { path: string; sizeBytes: number; modifiedMs: number; beginning: string }[] = []
    // one after the other: the beginnings of a whole folder at once would be a folder in memory
    for (const { path, file } of files) {
      const { size: sizeBytes, lastModified } = file
      wish.push({ path, sizeBytes, modifiedMs: Math.trunc(lastModified), beginning: await beginningOf(file) })
    }
    const former = sessionStorage.getItem(brokenOff)
    const start = (upload: string | null) => api(calls.beginUpload, { body: { upload, files: wish } })
    // what nobody booked in time is not there any more: then it begins anew
    return former ? await start(former).catch(() => start(null)) : start(null)
  }
  async function take(files: readonly Chosen[]) {
    if (files.length === 0) return
    const mine = ++asked
    const isMine = () => mine === asked
    isReading.value = true
    sentence.value = ''
    view.value = null
    const sizeBytes = files.reduce((sum, { file }) => sum + file.size, 0)
    progress.value = { gotBytes: 0, sizeBytes }
    look(files)
    try {
      const { upload, files: begun } = await begin(files)
      sessionStorage.setItem(brokenOff, upload)
      let gotBytes = begun.reduce((sum, one) => sum + one.gotBytes, 0)
      for (const [i, { no, gotBytes: there }] of begun.entries()) {
        const { file } = files[i]!
        for (let from = there; from < file.size && isMine(); from += pieceBytes) {
          progress.value = { gotBytes, sizeBytes }
          const body = file.slice(from, from + pieceBytes)
          await api(calls.takePiece, { params: { upload, no }, query: { from }, body })
          gotBytes += body.size
        }
      }
      if (!isMine()) return
      progress.value = { gotBytes: sizeBytes, sizeBytes }
      await sort(upload, null)
    } catch (error) {
      if (isMine()) sentence.value = sentenceOf(error)
      remember()
    } finally {
      if (isMine()) {
        isReading.value = false
        progress.value = null
        stop()
      }
    }
  }
  /** @param password of its ZIPs */
  async function sort(upload: string, password: string | null) {
    const sorted = await api(calls.sortUpload, { params: { upload }, body: { password } })
    view.value = sorted
    sentence.value = sorted.problem && isErrorCode(sorted.problem) && sorted.state !== 'locked' ? errors[sorted.problem].sentence : ''
    if (sorted.state !== 'sorted') return
    sessionStorage.removeItem(brokenOff)
    hasBrokenOff.value = false
    if (Object.keys(sorted.items).length === 0) sentence.value = errors.FileUnreadable.sentence
    else
      taken({
        place: 'file',
        maker: said.file,
        model: said.file,
        platform: 'file',
        version: '',
        serial: null,
        upload,
        held: sorted.items,
      })
  }
  async function unlock(password: string) {
    isReading.value = true
    try {
      await sort(view.value!.upload, password)
    } catch (error) {
      sentence.value = sentenceOf(error)
    } finally {
      isReading.value = false
    }
  }
  return { sentence, isReading, preview, progress, view, hasBrokenOff, remember, take, unlock }
}
