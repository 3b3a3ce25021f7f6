import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { kindCodes } from '#core/kinds/faces.ts'
import type { GuideFile, PhoneGuide, Platform } from '#core/phones/guide-schema.ts'
import { shippedGuides } from '#core/phones/guides/index.ts'
import { checkGuide, resolveGuide, type GuideFault } from '#core/phones/resolve-guide.ts'
import type { Services } from '../base/services.ts'

export interface RefusedGuide {
  readonly file: string
  readonly faults: readonly GuideFault[]
}

export interface Guides {
  readonly parts: readonly GuideFile[]
  /** Files of the shop's own that are not used, each with the places and the rules. */
  readonly refused: readonly RefusedGuide[]
  /** Ids of the shop's own that are used. */
  readonly own: readonly string[]
}

let known: { signature: string; guides: Guides } | undefined

/**
 * The guides that ship and the shop's own, JSON files in `guides/` of the data folder. A file that changed is read
 * again; a faulty one is refused whole, and the others are used.
 */
export function readGuides({ config }: Pick<Services, 'config'>): Guides {
  const folder = join(config.dataFolder, 'guides')
  const files = existsSync(folder)
    ? readdirSync(folder)
        .filter((name) => name.endsWith('.json'))
        .sort()
    : []
  const signature = files.map((name) => `${folder}/${name} ${statSync(join(folder, name)).mtimeMs}`).join('\n')
  if (known?.signature === signature) return known.guides
  const parts = [...shippedGuides]
  const refused: RefusedGuide[] = []
  for (const file of files) {
    const result = readFile(join(folder, file), parts)
    if ('faults' in result) refused.push({ file, faults: result.faults })
    else parts.push(result.part)
  }
  const guides = { parts, refused, own: parts.slice(shippedGuides.length).map((part) => part.id) }
  known = { signature, guides }
  return guides
}

function readFile(path: string, before: readonly GuideFile[]): ReturnType<typeof checkGuide> {
  try {
    return checkGuide(JSON.parse(readFileSync(path, 'utf8')), before)
  } catch (error) {
    return { faults: [{ place: 'the file', rule: `it is not JSON: ${(error as Error).message.slice(0, 120)}` }] }
  }
}

interface Named {
  readonly platform: string
  readonly maker: string
  readonly model: string
  readonly version: string
}

/** What is known of a phone; a dropped file needs nothing and takes nothing, a locker, and what is taken home, need nothing and take all. */
export function guideOf({ parts }: Guides, { platform, maker, model, version }: Named): PhoneGuide {
  if (platform === 'file') return fileGuide
  if (platform === 'locker' || platform === 'folder') return takingAllGuide
  return resolveGuide(parts, { platform: platform as Platform, maker, model, version })
}

const takingAllGuide: PhoneGuide = {
  needs: [],
  causes: [],
  from: [],
  kinds: Object.fromEntries(kindCodes.map((kind) => [kind, { read: true, write: true, changes: [], limits: {} }])),
}

const fileGuide: PhoneGuide = {
  needs: [],
  causes: [],
  from: [],
  kinds: Object.fromEntries(
    kindCodes.map((kind) => [kind, { read: true, write: { cannot: 'file-is-read-only' }, changes: [], limits: {} }]),
  ),
}
