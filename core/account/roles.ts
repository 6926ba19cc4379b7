/** What a member may be in a workspace. */
export const memberRoles = ['owner', 'coordinator', 'host'] as const
export type MemberRole = (typeof memberRoles)[number]
