import { z } from 'zod'

/** How much of the digest of its list an archive is told by. Hex digits. */
export const markLength = 12
/** What the list of an archive is called in it. */
export const manifestName = 'Manifest.json'
export const pageName = 'Open me.html'
/** Where it stands what could not be read, as it was given. */
export const unreadFolder = 'Not read'

/** Every file of an archive but this one, with its digest (FIPS 180-4), and what of each kind is in it. */
export const archiveManifest = z.object({
  madeWith: z.literal('Corvend'),
  version: z.literal(1),
  madeAt: z.string(),
  /** Which phone it comes from, and how its numbers and times are read. */
  from: z.object({ maker: z.string(), model: z.string(), platform: z.string(), version: z.string(), region: z.string(), zone: z.string() }),
  kinds: z.record(
    z.string(),
    z.object({ file: z.string(), items: z.number().int(), files: z.number().int(), bytes: z.number(), sha256: z.string() }),
  ),
  files: z.array(z.object({ path: z.string(), bytes: z.number(), sha256: z.string() })),
})
export type ArchiveManifest = z.infer<typeof archiveManifest>
