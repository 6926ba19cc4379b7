import { createTransport } from 'nodemailer'
import type { SendInvitation } from './interface'

/** The mail that invites somebody to be a user of an account. */
export function invitationMail(smtpPort: number, origin: string): SendInvitation {
  const transport = createTransport({ host: '127.0.0.1', port: smtpPort, secure: false, ignoreTLS: true })
  return async (account, user) => {
    await transport.sendMail({
      from: 'Quayside Video <invitations@quayside.example>',
      to: user.address,
      subject: `${account.name} invites you to Quayside Video`,
      text: `Hello ${user.name},\n\n${account.name} would like to hold meetings in your name. Accept within 30 days:\n${origin}/invitations/${user.invitationKey}\n`,
    })
  }
}
