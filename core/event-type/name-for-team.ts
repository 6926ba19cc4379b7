import type { Settings } from './settings'

/** The name that members read: the team's own where there is one. */
export function nameForTeam({ name, teamName }: Pick<Settings, 'name' | 'teamName'>): string {
  return teamName || name
}
