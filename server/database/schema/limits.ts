import { bigint, integer, pgTable, varchar } from 'drizzle-orm/pg-core'

/** Counters of the rate limiter, in the shape that rate-limiter-flexible keeps them in. */
export const rateLimits = pgTable('rate_limits', {
  key: varchar('key', { length: 255 }).primaryKey(),
  points: integer('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number' }),
})
