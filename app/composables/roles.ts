import type { MemberRole } from '~~/core/account/roles'
import { texts } from '~/locales/people'

/** Roles in words: what they are called, alone and within a sentence, and what they may do. */
export const roleWords: Record<MemberRole, { name: string, phrase: string, may: string }> = {
  owner: { name: texts.owner, phrase: texts.anOwner, may: texts.ownerMay },
  coordinator: { name: texts.coordinator, phrase: texts.aCoordinator, may: texts.coordinatorMay },
  host: { name: texts.host, phrase: texts.aHost, may: texts.hostMay },
}
