import { and, eq, inArray, notExists, sql } from 'drizzle-orm'
import type { Database } from '../database/connection'
import {
  accounts,
  answers,
  assignments,
  bookings,
  calendarAccounts,
  changes,
  chairGroups,
  chairHosts,
  chairs,
  deliveries,
  eventTypeAddresses,
  eventTypeDrafts,
  eventTypes,
  eventTypeVersions,
  groupHosts,
  guests,
  hostGroups,
  hostPictures,
  hostPlans,
  hosts,
  hoursPlans,
  idempotencyKeys,
  listRequests,
  memberSessions,
  members,
  messageTexts,
  ownMessages,
  questionSets,
  paymentAccounts,
  payments,
  receivingCalendars,
  rooms,
  sessionEntries,
  sessionHosts,
  sessions,
  trail,
  turns,
  unreminded,
  videoAccounts,
  videoUsers,
  workspaceAddresses,
  workspaces,
} from '../database/schema'

/** Whatever belongs to a workspace, in an order in which nothing refers to what is gone. */
const tables = [
  sessionEntries, receivingCalendars, calendarAccounts,
  unreminded, listRequests, deliveries, trail, changes, assignments, turns, rooms, answers, guests, payments, idempotencyKeys,
  bookings, sessionHosts, sessions,
  memberSessions, eventTypeDrafts, eventTypeVersions, eventTypeAddresses, chairGroups, chairHosts, chairs,
  messageTexts, ownMessages, eventTypes, questionSets,
  groupHosts, hostGroups, videoUsers, videoAccounts, paymentAccounts, hostPlans, hoursPlans, hostPictures, hosts, members,
  workspaceAddresses,
] as const

/** Deletes a workspace with everything in it, its jobs, and the accounts of those who belong to no other. */
export async function deleteWorkspaceRows(tx: Database, workspaceId: string): Promise<void> {
  const people = await tx.select({ accountId: members.accountId }).from(members).where(eq(members.workspaceId, workspaceId))
  for (const table of tables) await tx.delete(table).where(eq(table.workspaceId, workspaceId))
  await tx.delete(accounts).where(and(
    inArray(accounts.id, people.flatMap(({ accountId }) => accountId ?? [])),
    notExists(tx.select({ id: members.id }).from(members).where(eq(members.accountId, accounts.id))),
  ))
  await tx.delete(workspaces).where(eq(workspaces.id, workspaceId))
  await tx.execute(sql`select graphile_worker.complete_jobs(array(
    select id from graphile_worker.jobs where key like ${`%:${workspaceId}:%`} and locked_at is null))`)
}
