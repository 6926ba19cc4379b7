import { and, count, eq, gte, sql } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import { type HostCounts, sharesOf } from '../../core/rotation/shares'
import { awayDays } from '../../core/hours/away'
import { DAY, dateToDays, HOUR } from '../../core/time/civil'
import { zoneOf } from '../../core/time/zone'
import type { PoolView } from '../../core/views/rotation'
import { groupBy } from '../../core/group-by'
import { type Context, dateOf } from '../context'
import { among } from '../database/among'
import type { Database } from '../database/connection'
import { assignments, hosts, turns } from '../database/schema'
import { loadStated } from '../hosts-time'

/** A pool as event types and groups have it, before anything is counted. */
export interface Pool extends Omit<PoolView, 'hosts'> {
  hosts: { id: string, name: string, weight: number }[]
}

type Counted = Omit<HostCounts, 'weight' | 'awayDays'> & { poolId: string, hostId: string }

/** What the hosts of some pools had of the sessions that were assigned in the last days, against what they were due. */
export async function countShares({ db, now }: Context, workspaceId: string, pools: readonly Pool[], days: number): Promise<PoolView[]> {
  const hostIds = [...new Set(pools.flatMap(pool => pool.hosts.map(host => host.id)))]
  if (hostIds.length === 0) return []
  const since = now() - days * DAY
  const poolIds = pools.map(pool => pool.id)
  const counted = new Map((await rememberTurns(db, workspaceId, poolIds, since)).map(row => [`${row.poolId} ${row.hostId}`, row]))
  const credits = groupBy(await db.select().from(turns)
    .where(and(eq(turns.workspaceId, workspaceId), among(turns.poolId, poolIds))), row => row.poolId)
  const known = new Map((await db.select({ id: hosts.id, timeZone: hosts.timeZone }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), among(hosts.id, hostIds)))).map(host => [host.id, host.timeZone]))
  const away = await countAwayDays(db, workspaceId, hostIds, since, now())
  return pools.map((pool) => {
    const counts = pool.hosts.map(({ id, weight }): HostCounts => {
      const { had = 0, able = 0, chosen = 0, handedTo = 0, handedAway = 0 } = counted.get(`${pool.id} ${id}`) ?? {}
      return { weight, had, able, chosen, handedTo, handedAway, awayDays: away.get(id) ?? 0 }
    })
    const shares = sharesOf(counts, pool.policy === 'order')
    return {
      ...pool,
      hosts: pool.hosts.map((host, index) => ({
        ...host,
        timeZone: known.get(host.id) ?? '',
        had: counts[index]?.had ?? 0,
        credit: credits.get(pool.id)?.find(row => row.hostId === host.id)?.credit ?? 0,
        target: shares[index]?.target ?? null,
        reasons: shares[index]?.reasons ?? [],
      })),
    }
  })
}

const remembered = new LRUCache<string, { rows: number, counted: Counted[] }>({ max: 500 })

/**
 * What was counted since a full hour at or before `since`, for each pool as long as its ledger has as many rows since then:
 * rows are only ever added.
 */
async function rememberTurns(db: Database, workspaceId: string, poolIds: readonly string[], since: number): Promise<Counted[]> {
  const from = Math.floor(since / HOUR) * HOUR
  const rowsOf = new Map((await db.select({ poolId: assignments.poolId, rows: count() }).from(assignments)
    .where(and(eq(assignments.workspaceId, workspaceId), among(assignments.poolId, poolIds), gte(assignments.at, dateOf(from))))
    .groupBy(assignments.poolId)).map(({ poolId, rows }) => [poolId, rows]))
  const known = (poolId: string) => {
    const found = remembered.get(`${workspaceId} ${poolId} ${from}`)
    return found?.rows === rowsOf.get(poolId) ? found?.counted : undefined
  }
  const missing = poolIds.filter(poolId => rowsOf.has(poolId) && !known(poolId))
  const counted = groupBy(missing.length > 0 ? await countTurns(db, workspaceId, missing, from) : [], row => row.poolId)
  for (const poolId of missing)
    remembered.set(`${workspaceId} ${poolId} ${from}`, { rows: rowsOf.get(poolId) ?? 0, counted: counted.get(poolId) ?? [] })
  return poolIds.flatMap(poolId => counted.get(poolId) ?? known(poolId) ?? [])
}

/** Counts assignments that stand, in one pass over the ledger's rows of the period. */
async function countTurns(db: Database, workspaceId: string, poolIds: readonly string[], since: number): Promise<Counted[]> {
  const { rows } = await db.execute<Counted & Record<string, unknown>>(sql`
    with period as (
      select id, pool_id, session_id, chair_id, host_id, kind, code, position, able, returns from assignments
      where workspace_id = ${workspaceId} and pool_id = any(${sql.param([...poolIds])}::uuid[]) and at >= ${dateOf(since).toISOString()}::timestamptz
    ), standing as (
      select * from period where kind <> 'returned' and not exists (
        select 1 from assignments as back where back.workspace_id = ${workspaceId} and back.returns = period.id)
    ), had as (
      select pool_id, host_id, count(*)::int as had, (count(*) filter (where code = 'chosen' and kind in ('booked', 'reinstated')))::int as chosen,
        (count(*) filter (where kind = 'handedOver'))::int as handed_to
      from standing group by 1, 2
    ), able as (
      select pool_id, host_id, count(*)::int as able from (select pool_id, unnest(able) as host_id from standing) as turn group by 1, 2
    ), away as (
      select pool_id, host_id, count(*)::int as handed_away from period where kind = 'returned' and exists (
        select 1 from assignments as later where later.workspace_id = ${workspaceId} and later.session_id = period.session_id
          and later.chair_id = period.chair_id and later.kind = 'handedOver' and later.position > period.position)
      group by 1, 2
    )
    select pool_id as "poolId", host_id as "hostId", coalesce(had, 0) as had, coalesce(chosen, 0) as chosen, coalesce(handed_to, 0) as "handedTo",
      coalesce(able, 0) as able, coalesce(handed_away, 0) as "handedAway"
    from had full join able using (pool_id, host_id) full join away using (pool_id, host_id)`)
  return rows
}

/** Days of the period on which a host was away: by what they said, or an exception of their default hours without any window. */
async function countAwayDays(
  db: Database, workspaceId: string, hostIds: readonly string[], from: number, to: number,
): Promise<Map<string, number>> {
  const { plans, away } = await loadStated(db, workspaceId, hostIds)
  return new Map(away.map((host) => {
    const zone = zoneOf(host.timeZone)
    const [first, last] = [zone.dayOf(from), zone.dayOf(to)]
    const closed = (plans.find(plan => plan.hostId === host.id && plan.isDefault)?.plan.exceptions ?? [])
      .filter(({ windows }) => windows.length === 0).map(({ date }) => dateToDays(date)).filter(day => day >= first && day <= last)
    return [host.id, new Set([...closed, ...awayDays(host.away, first, last)]).size]
  }))
}
