export { freeWorkspaceSlug, lockAddresses, updateWorkspace, type UpdateOutcome, viewWorkspace } from './settings'
export { askForDeletion, keepWorkspace } from './deletion'
