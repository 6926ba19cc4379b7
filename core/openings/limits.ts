/**
 * How large a query may be. Everything within these limits is answered in seconds at worst; what is beyond is refused
 * rather than left to run.
 */
export const queryLimits = {
  /** The largest limit over all hosts. */
  totalLimit: 10_000,
  idCharacters: 200,
  /** Entries of each list. */
  list: {
    days: 100, windows: 1000, weekly: 10_000, recurring: 100, exceptions: 10_000, holidays: 10_000, plans: 20,
    busy: 100_000, sessions: 100_000, hosts: 1000, chairs: 20, openedOver: 10_000, explain: 10_000,
  },
  /** Days from `from` to `to`. */
  spanDays: 3700,
  /** Steps of the grid within the span and what is opened over: a start every minute for a year fits. */
  gridSteps: 600_000,
  /** Those steps times the places in the chairs' pools. */
  seatSteps: 20_000_000,
  /** Days of the span times all plans, each counted once and once more for every window that a day of it can have. */
  planDays: 10_000_000,
  /** Days over which recurring windows are followed, all together. */
  ruleDays: 300_000,
  /** Busy blocks and sessions of all hosts. */
  blocks: 500_000,
  /** Explained instants times hosts. */
  explanations: 1_000_000,
} as const
