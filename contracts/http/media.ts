import { z } from 'zod'
import { waysOut } from '#core/kinds/kind.ts'
import { eitherKey, kindCode, oldKey } from './fields.ts'
import { entryFilter } from './ledger.ts'

const n = z.number()

/** Space and time of what is chosen and waits. Bytes, seconds. */
export const mediaPlan = z.object({
  chosenBytes: n,
  growsBytes: n,
  /** Photos and apps those bytes are in. */
  files: n,
  /** On the new phone now; null while it is away. */
  freeBytes: n.nullable(),
  space: z.object({ neededBytes: n, reserveBytes: n, leftBytes: n, fits: z.boolean(), shortBytes: n }).nullable(),
  duration: z.object({ lowS: n, highS: n, restsS: n }),
  measuredBytesPerSecond: n.nullable(),
  conversions: z.object({ items: n, growsBytes: n, seconds: n, isMeasured: z.boolean() }).nullable(),
  /** Offered when it does not fit. */
  waysOut: z.array(
    z.object({
      way: z.enum(waysOut),
      sinceYear: n.nullable(),
      /** Of `without`: which kind stays behind. */
      kind: z.string().nullable(),
      items: n,
      bytes: n,
      fits: z.boolean(),
    }),
  ),
})
export type MediaPlan = z.infer<typeof mediaPlan>

/** `POST /api/tickets/{number}/kinds/photos/way-out` */
export const wayOutBody = z
  .object({
    way: z.enum(waysOut),
    sinceYear: z.number().int().min(1900).max(2200).nullable().default(null),
    kind: kindCode.nullable().default(null),
  })
  .refine(({ way, sinceYear }) => way !== 'since-year' || sinceYear !== null, { path: ['sinceYear'] })
  .refine(({ way, kind }) => way !== 'without' || kind !== null, { path: ['kind'] })
/** `POST /api/tickets/{number}/first`: the kind that is carried before all others; null for the usual order. */
export const firstBody = z.object({ kind: kindCode.nullable() })

/** `POST /api/tickets/{number}/months` */
export const monthsBody = z.object({ kind: kindCode })
/** Items by month: of the old phone; to arrive on the new one; arrived; all that holds. What was there already is in neither of the two. */
export const monthsView = z.object({
  isChecked: z.boolean(),
  months: z.array(z.object({ month: z.string(), old: n, wanted: n, arrived: n, now: n })),
})
export type MonthsView = z.infer<typeof monthsView>

/** `POST /api/tickets/{number}/thumbnail`: a small JPEG of one photo, only while showing is allowed. */
export const thumbnailBody = z.object({
  kind: kindCode,
  key: eitherKey,
  filter: entryFilter.default('all'),
})

/** A stretch of the line while carrying runs: kinds that go one after the other. */
export const stretch = z.object({
  code: z.enum(['first', 'light', 'media']),
  kinds: z.array(z.string()),
  state: z.enum(['over', 'running', 'waiting']),
  /** Items or bytes. */
  done: n,
  total: n,
  unit: z.enum(['items', 'bytes']),
  leftLowS: n.nullable(),
  leftHighS: n.nullable(),
})

/** `POST /api/tickets/{number}/apps`: every app of the old phone and what becomes of it. */
const appWord = z.object({ id: z.string(), name: z.string(), maker: z.string(), priceCents: n, canInstall: z.boolean() })
export const appRow = z.object({
  /** Of its item. */
  key: z.string(),
  position: n,
  use: z.string(),
  fate: z.string(),
  reasons: z.array(z.string()),
  how: z.enum(['package', 'store', 'same-maker', 'equal-use', 'web', 'none']),
  isShops: z.boolean(),
  notes: z.array(z.enum(['paid-again', 'other-region', 'needs-newer'])),
  tied: z.enum(['bank', 'codes', 'wallet', 'chat']).nullable(),
  isMoved: z.boolean(),
  candidates: n,
  /** Only while showing is allowed. */
  name: z.string().nullable(),
  counterpart: z.string().nullable(),
})
export type AppRow = z.infer<typeof appRow>
export const appsView = z.object({
  rows: z.array(appRow),
  counts: z.object({ all: n, toInstall: n, installed: n, tied: n, tiedOpen: n }),
  isShowing: z.boolean(),
})
export type AppsView = z.infer<typeof appsView>
export const appBody = z.object({ key: oldKey })
/** What may stand in for one app; only while showing is allowed. */
export const candidatesView = z.object({ candidates: z.array(appWord), chosen: z.string().nullable() })
export type CandidatesView = z.infer<typeof candidatesView>
export const counterpartBody = z.object({ key: oldKey, counterpartId: z.string().max(200).nullable() })
export const movedBody = z.object({ key: oldKey, isMoved: z.boolean() })
/** The customer's list of what to install. */
const installedApp = z.object({ name: z.string(), maker: z.string(), use: z.string(), priceCents: n, link: z.string().nullable() })
/** `link`: the page behind the code; without a public address there is none, and the list is on paper. */
export const installListView = z.object({
  apps: n,
  link: z.string().nullable(),
  qr: z.string().nullable(),
  list: z.array(installedApp),
})
/** What whoever has the code sees. */
export const installPageView = z.object({ shop: z.string(), model: z.string(), apps: z.array(installedApp), endsAt: z.string() })
export type InstallPageView = z.infer<typeof installPageView>
export type InstallListView = z.infer<typeof installListView>
