import type { EngineHost, HoursPlan } from '../openings'
import type { Settings } from './settings'

/** What is known of a host's time, whichever event type asks: all hours plans, and what is taken. */
export interface HostTime extends Omit<EngineHost, 'plans'> {
  plans: readonly HostPlan[]
}

export interface HostPlan {
  id: string
  /** The plan that applies where an event type names no other. */
  isDefault: boolean
  /** As the engine takes it, holidays included. */
  plan: HoursPlan
}

/** The host's plan that applies to an event type: the one it names, else the default one. */
export function planFor(host: HostTime, hours: Settings['hours']): HostPlan | undefined {
  const named = hours.mode === 'replace' ? undefined : hours.hostPlans?.[host.id]
  return host.plans.find(plan => plan.id === named) ?? host.plans.find(plan => plan.isDefault) ?? host.plans[0]
}
