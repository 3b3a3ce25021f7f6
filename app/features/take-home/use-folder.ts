import { onScopeDispose, ref } from 'vue'
import type { FolderReport, FolderWish } from '../../workers/folder.worker.ts'

type PickFolder = (how: { mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle>
const pickFolder = () => (globalThis as { showDirectoryPicker?: PickFolder }).showDirectoryPicker

/** Takes an archive out into a folder that is chosen, where this browser can write to one. */
export function useFolder() {
  const report = ref<FolderReport | null>(null)
  let worker: Worker | undefined
  onScopeDispose(() => worker?.terminate())
  async function put(url: string, password: string) {
    const folder = await pickFolder()?.({ mode: 'readwrite' }).catch(() => undefined)
    if (!folder) return
    worker?.terminate()
    worker = new Worker(new URL('../../workers/folder.worker.ts', import.meta.url), { type: 'module' })
    report.value = { step: 'putting', done: 0, total: 0, bad: 0, issue: null }
    worker.onmessage = (event: MessageEvent<FolderReport>) => {
      report.value = event.data
    }
    worker.onerror = () => {
      report.value = { step: 'failed', done: 0, total: 0, bad: 0, issue: null }
    }
    worker.postMessage({ url: new URL(url, location.href).href, password, folder } satisfies FolderWish)
  }
  return { report, put, canPut: () => pickFolder() !== undefined }
}
