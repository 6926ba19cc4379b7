import { bigint, bigserial, index, integer, pgTable, text, timestamp, varchar } from 'drizzle-orm/pg-core'

/** Counters of the rate limiter, in the shape that rate-limiter-flexible keeps them in. */
export const rateLimits = pgTable('rate_limits', {
  key: varchar('key', { length: 255 }).primaryKey(),
  points: integer('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number' }),
})

/**
 * Mails of the last hour to addresses that have not yet shown that they want them, over all workspaces. Addresses are
 * stored as hashes; rows go when the address opens a mail, or after an hour.
 */
export const unopenedMails = pgTable('unopened_mails', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  addressHash: text('address_hash').notNull(),
  at: timestamp('at', { withTimezone: true }).notNull(),
}, table => [index('unopened_mails_address').on(table.addressHash, table.at)])
