import { createNumberReader } from '#core/kinds/contacts/index.ts'
import { itemsAt, packedItems, type OpenKind, type PackRequest, type Shop } from './contents.ts'
import { pageWords as said } from './page-words.ts'

/** Text as HTML shows it, in an element or an attribute in double quotes; what would turn text around is left out. */
export function escaped(text: string): string {
  return text
    .replace(/[\u202a-\u202e\u2066-\u2069]/g, '')
    .replace(/[&<>"'\0]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[c] ?? '')
}

/** A path as an address beside the page: each part by its percent-codes (RFC 3986), so that none is read as more. */
export const addressOf = (path: string) => escaped(path.split('/').map(encodeURIComponent).join('/'))

const made = new Map<string, { year: Intl.DateTimeFormat; moment: Intl.DateTimeFormat }>()
/** Making one costs more than all it writes. */
function inZone(timeZone: string) {
  const known = made.get(timeZone) ?? {
    year: new Intl.DateTimeFormat('en-GB', { year: 'numeric', timeZone }),
    moment: new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short', timeZone }),
  }
  made.set(timeZone, known)
  return known
}

/** Items are read again in the order of the page, so many at a time. */
const atOnce = 400
const shownTypes = /\.(jpe?g|png|gif|webp|bmp|avif)$/i

const style = `body{font:16px/1.45 system-ui,sans-serif;margin:2rem auto;max-width:52rem;padding:0 1rem;color:#1d2422;background:#fff}
h1{font-size:1.6rem}h2{margin-top:2.5rem;border-bottom:2px solid #1d2422}summary{cursor:pointer;padding:.35rem 0;font-weight:600}
article{padding:.3rem 0;border-bottom:1px solid #dde3df;overflow-wrap:anywhere}small,dt{color:#55605b}dl{margin:.1rem 0 0;display:grid;grid-template-columns:9rem 1fr;gap:0 .75rem}
dd{margin:0;white-space:pre-wrap}p{white-space:pre-wrap;margin:.15rem 0}img{width:9rem;height:9rem;object-fit:cover;background:#eef1ef}
figure{display:inline-block;margin:.25rem;width:9rem;vertical-align:top}figcaption{font-size:.75rem;overflow-wrap:anywhere}nav li{margin:.15rem 0}`

/** Where an item stands on the page: in which group, and by what it is put in order there. */
interface Placed {
  readonly seq: number
  readonly group: number
  readonly order: number | string
}

/**
 * One page for any browser, without a script and without the internet: people from A to Z, conversations, the calendar,
 * photos by year. All that comes from the phone is escaped. Memory is for the order of the items, not for what they say.
 */
export async function* writePage(shop: Shop, request: PackRequest, opens: readonly OpenKind[]): AsyncGenerator<string> {
  const { from, madeAt } = request
  const day = madeAt.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: from.zone })
  const plans = []
  const names = new Map<string, string>()
  const number = createNumberReader(from.region)
  for (const open of opens) plans.push({ open, ...(await planOf(shop, request, open, { names, number })) })
  yield `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src 'self' file: data:">
<meta name="referrer" content="no-referrer"><title>${escaped(said.title)}</title><style>${style}</style></head><body>
<h1>${escaped(said.title)}</h1><p>${escaped(said.lead(from.model, day))}</p><nav aria-label="${escaped(said.counts)}"><ul>\n`
  for (const { open, placed } of plans) {
    const { title } = open.archive.page
    const line = said.items(placed.length.toLocaleString('en-GB'), open.archive.file)
    yield `<li><a href="#${escaped(open.code)}">${escaped(title)}</a>: ${escaped(line)}</li>\n`
  }
  yield '</ul></nav>\n'
  for (const plan of plans) yield* section(shop, request, plan, { names, number })
  yield `<p><small>${escaped(said.how)}</small></p></body></html>\n`
}

interface Names {
  /** By a number as it is told everywhere. */
  readonly names: Map<string, string>
  readonly number: (text: string) => string
}

/** One look at all of a kind: what stands where, and which files it has. */
async function planOf(shop: Shop, request: PackRequest, open: OpenKind, { names, number }: Names) {
  const { page } = open.archive
  const groups: string[] = []
  const known = new Map<string, number>()
  const placed: Placed[] = []
  const paths = new Map<number, readonly string[]>()
  for await (const { seq, item, files } of packedItems(shop, request.copy, open, request)) {
    for (const one of page.namesOf?.(item) ?? []) if (one.name) names.set(number(one.number), one.name)
    const name = groupOf(open, item, request.from.zone)
    let group = known.get(name)
    if (group === undefined) {
      known.set(name, (group = groups.length))
      groups.push(name)
    }
    const order = page.by === 'name' ? open.kind.describe(item).title.toLowerCase().slice(0, 60) : (open.kind.at?.(item) ?? 0)
    placed.push({ seq, group, order })
    if (files.length > 0)
      paths.set(
        seq,
        files.map(({ path }) => path),
      )
  }
  const compare = (a: Placed, b: Placed) => a.group - b.group || (a.order < b.order ? -1 : a.order > b.order ? 1 : 0) || a.seq - b.seq
  placed.sort(compare)
  return { groups, placed, paths }
}

function groupOf({ kind, archive: { page } }: OpenKind, item: unknown, zone: string): string {
  if (page.by === 'group') return kind.describe(item).group ?? ''
  if (page.by !== 'year') return ''
  const at = kind.at?.(item) ?? null
  return at === null ? said.withoutDate : inZone(zone).year.format(at)
}

interface Plan extends Awaited<ReturnType<typeof planOf>> {
  readonly open: OpenKind
}

async function* section(shop: Shop, request: PackRequest, { open, groups, placed, paths }: Plan, known: Names): AsyncGenerator<string> {
  const { page } = open.archive
  if (placed.length === 0) return
  yield `<section id="${escaped(open.code)}"><h2>${escaped(page.title)}</h2>\n`
  const starts = startsOf(placed)
  const inOrder = page.by === 'year' ? [...starts].sort((a, b) => groups[b.group]!.localeCompare(groups[a.group]!)) : starts
  for (const { group, from, to } of inOrder) {
    const name = page.by === 'group' ? nameOf(groups[group]!, known) : groups[group]!
    const many = page.by === 'group' ? said.messages(to - from) : said.listed(to - from)
    if (name || page.by === 'group') yield `<details><summary>${escaped(name || said.nobody)} <small>${escaped(many)}</small></summary>\n`
    for (let at = from; at < to; at += atOnce) {
      const some = placed.slice(at, Math.min(to, at + atOnce))
      const items = await itemsAt(shop, request.copy, open, { tools: request.tools, seqs: some.map(({ seq }) => seq) })
      let text = ''
      for (const { seq } of some)
        if (items.has(seq)) text += itemText(open, items.get(seq), { paths: paths.get(seq) ?? [], zone: request.from.zone, known })
      yield text
    }
    if (name || page.by === 'group') yield '</details>\n'
  }
  yield '</section>\n'
}

/** Where each group begins and ends among items that stand in order. */
function startsOf(placed: readonly Placed[]): { group: number; from: number; to: number }[] {
  const out: { group: number; from: number; to: number }[] = []
  placed.forEach(({ group }, i) => {
    if (out.at(-1)?.group !== group) out.push({ group, from: i, to: i })
    out.at(-1)!.to = i + 1
  })
  return out
}

/** A conversation by the names its numbers have among the people. */
function nameOf(group: string, { names, number }: Names): string {
  return group
    .split(', ')
    .map((party) => names.get(number(party)) ?? party)
    .join(', ')
}

function itemText(
  { kind, archive: { page } }: OpenKind,
  item: unknown,
  { paths, zone, known }: { paths: readonly string[]; zone: string; known: Names },
): string {
  const { title, lines } = kind.describe(item)
  const at = kind.at?.(item) ?? null
  const when = at === null ? '' : inZone(zone).moment.format(at)
  if (page.by === 'year') return figure(paths, when)
  const says = page.says?.(item) ?? ''
  const small = [when, nameOf(says, known)].filter(Boolean).map(escaped).join(' · ')
  const text = lines.find(({ field }) => field === 'text')?.text
  const links = paths.map((path) => `<p>${link(path)}</p>`).join('')
  if (page.by === 'group') return `<article><small>${small}</small><p>${escaped(text ?? title)}</p>${links}</article>\n`
  const facts = lines
    .filter(({ text: value }) => value !== title)
    .map(({ field, text: value }) => `<dt>${escaped(field.replaceAll('-', ' '))}</dt><dd>${escaped(value)}</dd>`)
    .join('')
  return `<article><strong>${escaped(nameOf(title, known) || said.nobody)}</strong> <small>${small}</small>${facts ? `<dl>${facts}</dl>` : ''}${links}</article>\n`
}

const nameIn = (path: string) => path.slice(path.lastIndexOf('/') + 1)
const link = (path: string) => `<a href="${addressOf(path)}">${escaped(nameIn(path))}</a>`

function figure(paths: readonly string[], when: string): string {
  const shown = paths.find((path) => shownTypes.test(path))
  const picture = shown ? `<a href="${addressOf(shown)}"><img loading="lazy" alt="" src="${addressOf(shown)}"></a>` : ''
  return `<figure>${picture}<figcaption>${escaped(when)}<br>${paths.map(link).join('<br>')}</figcaption></figure>\n`
}
