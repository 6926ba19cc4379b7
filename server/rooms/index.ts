export { accountFor, dropAccount, keepAccount, listConnections, mayConnect } from './accounts'
export { makeRoom, planRoom, tryRoomNow } from './make'
export { planWithdrawal, withdrawRoom } from './withdraw'
export { openConsent, RETURN_PATH, sealConsent } from './consent'
