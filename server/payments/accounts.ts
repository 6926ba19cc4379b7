import { and, asc, eq, isNull } from 'drizzle-orm'
import type { PaymentConnections } from '../../core/views/connections'
import { type Context, dateOf, secondsOf } from '../context'
import type { Database } from '../database/connection'
import { paymentAccounts, workspaces } from '../database/schema'
import type { PaymentCredentials, PaymentService } from '../ports/payment'
import { ServiceFault } from '../ports/service'
import { seal, unseal } from '../secrets'

/** The account that a workspace is paid to. */

export type PaymentAccount = typeof paymentAccounts.$inferSelect

const isConnected = (workspaceId: string) => and(eq(paymentAccounts.workspaceId, workspaceId), isNull(paymentAccounts.disconnectedAt))

export async function viewPaymentAccounts({ db, payments }: Context, workspaceId: string): Promise<PaymentConnections> {
  const [account] = await db.select().from(paymentAccounts).where(isConnected(workspaceId))
  return {
    services: [...payments].map(([key, { name, fields }]) => ({ key, name, fields: [...fields] })),
    account: account ? {
      service: account.service, name: payments.get(account.service)?.name ?? account.service, label: account.label,
      since: secondsOf(account.connectedAt),
    } : null,
  }
}

/** Connects an account by what was typed in, in place of the one there is. Throws ServiceFault. */
export async function connectPayments(
  { db, settings, now }: Context, workspaceId: string, key: string, service: PaymentService, fields: Readonly<Record<string, string>>,
): Promise<string> {
  const { credentials, label } = await service.tryCredentials(fields)
  await db.transaction(async (tx) => {
    await tx.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('no key update')
    await disconnect(tx, workspaceId, now())
    await tx.insert(paymentAccounts).values({
      workspaceId, service: key, label, sealedCredentials: seal(settings.secret, credentials), connectedAt: dateOf(now()),
    })
  })
  return label
}

/** Nothing new is paid to it; what was paid can still be paid back. */
export async function disconnectPayments({ db, now }: Context, workspaceId: string): Promise<boolean> {
  return disconnect(db, workspaceId, now())
}

async function disconnect(db: Database, workspaceId: string, at: number): Promise<boolean> {
  const done = await db.update(paymentAccounts).set({ disconnectedAt: dateOf(at) })
    .where(isConnected(workspaceId)).returning({ id: paymentAccounts.id })
  return done.length > 0
}

/** Throws ServiceFault where the account’s service is not set up any more, or its credentials were sealed with another secret. */
export function reachAccount(
  { payments, settings }: Context, account: Pick<PaymentAccount, 'service' | 'label' | 'sealedCredentials'>,
): { service: PaymentService, credentials: PaymentCredentials } {
  const service = payments.get(account.service)
  if (!service) throw new ServiceFault({ code: 'noPaymentService' })
  try {
    return { service, credentials: unseal(settings.secret, account.sealedCredentials) }
  } catch {
    throw new ServiceFault({ code: 'consentUnreadable', account: account.label }, 'accessLost')
  }
}

/** The account by its id alone, as notifications name it. */
export async function findPaymentAccount(db: Database, id: string): Promise<PaymentAccount | null> {
  const [found] = await db.select().from(paymentAccounts).where(eq(paymentAccounts.id, id)).orderBy(asc(paymentAccounts.connectedAt))
  return found ?? null
}
