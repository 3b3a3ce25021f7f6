import { hash } from '@node-rs/argon2'
import type { z } from 'zod'
import type { counterpartWordBody, firstStartBody, SettingsView, shopBody, staffBody, staffChangeBody } from '#contracts/http/shop.ts'
import { sqlState, transaction, type Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { lockShop, oneShop, setPortName, setShopFields, viewOfShop } from '../../base/shop.queries.ts'
import { addStaff } from '../../case/auth.ts'
import { insertShopChange, manyShopChanges } from '../../case/shop-changes.queries.ts'
import { countActive, endSessionsOf, manyAllStaff, maybeStaff, setStaff, type Staff } from '../../case/staff.queries.ts'
import { askCounterparts } from '../../endpoints/catalogue.ts'
import { forgetCounterpart, manyCounterparts, setShopsCounterpart } from '../../endpoints/counterparts.queries.ts'
import type { StaffId } from '../../base/ids.ts'

/** Names of so many remembered counterparts are asked of the catalogue. */
const mostNamed = 60

/** The shop's own settings, its staff, what it remembers of counterparts, and who changed what. */
export async function readSettings(services: Services, actor: Staff): Promise<SettingsView> {
  const { pool, config } = services
  const staff = await manyAllStaff(pool)
  const remembered = await manyCounterparts(pool)
  const known = await Promise.all(
    remembered.slice(0, mostNamed).map(({ app_id: id, platform: to }) =>
      // the catalogue may be away: then ids stand for names
      askCounterparts(config, { id, from: to === 'ios' ? 'android' : 'ios', to }).catch(() => undefined),
    ),
  )
  return {
    shop: viewOfShop(await oneShop(pool)),
    staff: staff.map(({ id, name, initials, is_active: isActive }) => ({ id, name, initials, isActive, isYou: id === actor.id })),
    counterparts: remembered.map((row, i) => ({
      appId: row.app_id,
      name: known[i]?.app?.name ?? null,
      platform: row.platform,
      counterpartId: row.counterpart_id,
      counterpartName: known[i]?.candidates.find(({ id }) => id === row.counterpart_id)?.name ?? null,
      by: row.by,
      candidates: (known[i]?.candidates ?? []).map(({ id, name }) => ({ id, name })),
    })),
    changes: (await manyShopChanges(pool)).map(({ at, ...row }) => ({ ...row, at: at.toISOString() })),
  }
}

/** Changes what a shop says of itself; each change is in the log, with what it was before. */
export function setShop({ pool }: Services, body: z.infer<typeof shopBody>, actor: Staff): Promise<void> {
  return transaction(pool, async (client) => {
    await lockShop(client)
    const before = viewOfShop(await oneShop(client))
    for (const [field, value] of Object.entries(body)) {
      const was = before[field as keyof typeof body]
      if (value === undefined || value === was) continue
      await insertShopChange(client, actor.id, { what: field, before: String(was), after: String(value) })
    }
    await setShopFields(client, { ...before, ...Object.fromEntries(Object.entries(body).filter(([, value]) => value !== undefined)) })
  })
}

/** A new member of staff. @throws Problem `NameTaken` */
export function hire({ pool }: Services, body: z.infer<typeof staffBody>, actor: Staff): Promise<void> {
  return named(pool, async (client) => {
    if (await isTaken(client, body.name)) throw new Problem('NameTaken')
    await addStaff(client, body)
    await insertShopChange(client, actor.id, { what: 'staff', of: body.name, after: body.initials })
  })
}

/**
 * Changes a member of staff. A new PIN, and being let go, sign their browsers out; what they did stays theirs.
 * @throws Problem `NotFound`, `NameTaken`, `LastStaff` when nobody could sign in any more
 */
export function changeStaff({ pool }: Services, id: StaffId, body: z.infer<typeof staffChangeBody>, actor: Staff): Promise<void> {
  return named(pool, async (client) => {
    await lockShop(client)
    const before = await maybeStaff(client, id)
    if (!before) throw new Problem('NotFound')
    const { pin, ...rest } = body
    const after = {
      name: rest.name ?? before.name,
      initials: rest.initials ?? before.initials,
      isActive: rest.isActive ?? before.is_active,
    }
    if (after.name.toLowerCase() !== before.name.toLowerCase() && (await isTaken(client, after.name))) throw new Problem('NameTaken')
    if (!after.isActive && before.is_active && (await countActive(client)) === 1) throw new Problem('LastStaff')
    await setStaff(client, id, { ...after, pinHash: pin === undefined ? null : await hash(pin) })
    if (pin !== undefined || !after.isActive) await endSessionsOf(client, id, { but: actor.id === id && after.isActive })
    const fields = [
      ['name', before.name, after.name],
      ['initials', before.initials, after.initials],
      ['active', String(before.is_active), String(after.isActive)],
    ] as const
    for (const [what, was, is] of fields)
      if (was !== is) await insertShopChange(client, actor.id, { what: `staff-${what}`, of: before.name, before: was, after: is })
    // that it was changed, never what it is
    if (pin !== undefined) await insertShopChange(client, actor.id, { what: 'pin', of: before.name })
  })
}

async function named(pool: Services['pool'], work: (client: Client) => Promise<void>): Promise<void> {
  try {
    await transaction(pool, work)
  } catch (error) {
    if (sqlState(error) === 'unique_violation') throw new Problem('NameTaken')
    throw error
  }
}

const isTaken = async (client: Client, name: string) =>
  (await manyAllStaff(client)).some((staff) => staff.name.toLowerCase() === name.toLowerCase())

/** Names a port as the shop calls it; an empty name takes that back. */
export function namePort({ pool }: Services, port: number, name: string, actor: Staff): Promise<void> {
  return transaction(pool, async (client) => {
    const before = viewOfShop(await oneShop(client)).portNames[port] ?? ''
    if (before === name) return
    await setPortName(client, port, name)
    await insertShopChange(client, actor.id, { what: 'port', of: String(port), before, after: name })
  })
}

/** Corrects or forgets what the shop remembers of an app's counterpart. @throws Problem `NotFound` */
export function setCounterpartWord({ pool }: Services, body: z.infer<typeof counterpartWordBody>, actor: Staff): Promise<void> {
  const { appId, platform, counterpartId } = body
  return transaction(pool, async (client) => {
    const before = (await manyCounterparts(client)).find((row) => row.app_id === appId && row.platform === platform)
    if (!before) throw new Problem('NotFound')
    if (counterpartId === undefined) await forgetCounterpart(client, appId, platform)
    else await setShopsCounterpart(client, { appId, platform, counterpartId, staffId: actor.id })
    await insertShopChange(client, actor.id, {
      what: counterpartId === undefined ? 'counterpart-forgotten' : 'counterpart',
      of: appId,
      before: before.counterpart_id,
      after: counterpartId ?? null,
    })
  })
}

/** Whether nobody works here yet: the shop is to be set up. */
export async function isNewShop({ pool }: Services): Promise<boolean> {
  return (await countActive(pool)) === 0
}

/** Sets a new shop up with its first member of staff, once. @throws Problem `NotNew` */
export function firstStart({ pool }: Services, { shop, staff }: z.infer<typeof firstStartBody>): Promise<void> {
  return transaction(pool, async (client) => {
    await lockShop(client)
    if ((await countActive(client)) > 0) throw new Problem('NotNew')
    await setShopFields(client, { ...viewOfShop(await oneShop(client)), ...shop })
    const { id } = await addStaff(client, staff)
    await insertShopChange(client, id, { what: 'first-start', of: staff.name })
  })
}
