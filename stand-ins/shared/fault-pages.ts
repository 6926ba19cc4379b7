import { defineEventHandler, type Router, sendRedirect, setResponseStatus } from 'h3'
import { commonFaults, type Fault, faultPanel, readFault } from './faults'
import { page, type PageOptions } from './html'
import { readMembers, sendPage } from './serve'

/** The page of a service on which its faults are switched on and off. */
export function addFaultPages(router: Router, holder: { fault: Fault, readonly held?: (() => void)[] }, options: Omit<PageOptions, 'title'>, kinds = commonFaults): void {
  router.get('/faults', defineEventHandler(event => sendPage(event, page({ ...options, title: 'Faults' }, faultPanel(holder.fault, kinds)))))
  router.post('/faults', defineEventHandler(async (event) => {
    try {
      holder.fault = readFault(await readMembers(event), kinds)
      for (const goOn of holder.held?.splice(0) ?? []) goOn()
    } catch (error) {
      setResponseStatus(event, 422)
      return { error: { code: 'invalid', message: error instanceof Error ? error.message : String(error) } }
    }
    return sendRedirect(event, '/faults', 303)
  }))
}
