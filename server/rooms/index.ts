export { accountFor, dropAccount, listConnections, listVideoStates, mayConnect, reachesAccount, saveAccount, withCredentials } from './accounts'
export { makeRoom, roomJobFailed, tryRoomNow } from './make'
export { withdrawalFailed, withdrawRoom } from './withdraw'
export { openConsent, returnPath, sealConsent } from './consent'
