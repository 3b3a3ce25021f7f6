import type { Chosen } from './use-file.ts'

/** Files that were chosen, each with the folders it lies in where a folder was chosen. */
export const chosenOf = (files: readonly File[]): Chosen[] => files.map((file) => ({ path: file.webkitRelativePath || file.name, file }))

/** What was dropped: files, and every file of folders. */
export async function droppedFiles(data: DataTransfer | null): Promise<Chosen[]> {
  const entries = [...(data?.items ?? [])].flatMap((item) => item.webkitGetAsEntry() ?? [])
  if (entries.length === 0) return chosenOf([...(data?.files ?? [])])
  const out: Chosen[] = []
  for (const entry of entries) await walk(entry, '', out)
  return out
}

async function walk(entry: FileSystemEntry, folder: string, out: Chosen[]): Promise<void> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))
    out.push({ path: folder + entry.name, file })
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  // a folder is told a hundred at a time
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (some.length === 0) return
    for (const inner of some) await walk(inner, `${folder}${entry.name}/`, out)
  }
}
