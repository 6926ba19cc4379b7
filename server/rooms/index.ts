export { accountFor, dropAccount, listConnections, mayConnect, saveAccount, withTokens } from './accounts'
export { makeRoom, planRoom, roomJobFailed, tryRoomNow } from './make'
export { planWithdrawal, withdrawalFailed, withdrawRoom } from './withdraw'
export { openConsent, RETURN_PATH, sealConsent } from './consent'
