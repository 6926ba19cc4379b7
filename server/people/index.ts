export { confirmAddress, type ConfirmOutcome, refuseSignUp, sendConfirmation } from './confirm'
export { hashPassword, loadMember, signIn } from './members'
export { endSession, endSessionsOf, memberOfSession, SESSION_SECONDS, type SessionCookie, startSession } from './sessions'
export { signUp } from './sign-up'
