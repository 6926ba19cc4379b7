export { hashPassword, loadMember, signIn } from './members'
export { signUp } from './sign-up'
