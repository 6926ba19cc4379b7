import type { Context } from '../../server/context'
import type { TestWorkspace } from '../../tests/support/workspace'

/** What a campaign runs on: two processes of the application, the stand-ins, and a workspace. */

export interface AppProcess {
  url: string
  /** Ends it with SIGKILL and starts it anew. */
  killAndRestart: () => Promise<void>
}

export interface Arena {
  context: Context
  apps: readonly [AppProcess, AppProcess]
  /** Whether other installations have rooms at the same services. */
  sharesStandIns?: boolean
  standIns: { lantern: string, quayside: string, pigeonhole: string, tollgate: string }
  workspace: TestWorkspace
  /** Files that the processes log to. */
  logs: readonly string[]
}

/** What was seen of a booking before it was confirmed. */
export interface Unconfirmed {
  bookingId: string
  texts: string[]
}

/** What clients and members did, and what they were answered. */
export interface CampaignRecord {
  booked: number
  refused: number
  cancelled: number
  moved: number
  /** Times a client invited somebody or took them off the list again. */
  invited: number
  handedOver: number
  reminded: number
  /** Times a client paid, texts that went to phones, and messages of the workspace's own that were sent. */
  paid: number
  texted: number
  ownMessages: number
  approved: number
  declined: number
  byHand: number
  kills: number
  faults: number
  /** Times a call had to be repeated because its process was gone. */
  repeated: number
  /** Mails that were sent twice with an unknown outcome, and wait for a person. */
  leftToPeople: number
  unconfirmed: Unconfirmed[]
  /** Contents of the queue, as they were now and then. */
  jobs: Set<string>
}

export const pause = (milliseconds: number) => new Promise<void>(resolve => setTimeout(resolve, milliseconds))
