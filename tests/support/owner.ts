import { afterAll, beforeAll, inject } from 'vitest'
import type { Context } from '../../server/context'
import { closeContext, makeContext } from '../../server/start'
import { useBrowser, type Visitor } from './browser'
import { makeWorkspace, type TestWorkspace } from './workspace'

/** A workspace for the tests of one file, handed over once its owner is signed in at the desk; gives what lets others arrive. */
export function useOwner(
  wanted: Parameters<typeof makeWorkspace>[1], take: (made: { context: Context, workspace: TestWorkspace, owner: Visitor }) => void,
): ReturnType<typeof useBrowser> {
  const arrive = useBrowser()
  let context: Context
  let owner: Visitor
  beforeAll(async () => {
    context = await makeContext(inject('environment'))
    const workspace = await makeWorkspace(context, wanted)
    owner = await arrive('Europe/Lisbon')
    await owner.signIn(workspace.owner.email, workspace.owner.password)
    take({ context, workspace, owner })
  })
  afterAll(async () => {
    await owner.leave()
    await closeContext(context)
  })
  return arrive
}
