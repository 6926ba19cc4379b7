export { freeWorkspaceSlug, lockAddresses, updateWorkspace, type UpdateOutcome, viewWorkspace } from './settings'
