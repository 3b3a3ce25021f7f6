import type { Source } from './endpoint.ts'

/** The beginning of a file, so many bytes at the most; the rest is not asked for. @throws LinkError */
export async function readSome(source: Source, kind: string, handle: string, most: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = []
  let got = 0
  for await (const chunk of source.openFile(kind, handle)) {
    chunks.push(chunk)
    got += chunk.length
    if (got >= most) break
  }
  return Buffer.concat(chunks).subarray(0, most)
}
