import { people } from './people'

/** The workspace's account of Quayside Video: two of its people are users there. */

const isUser = new Set(['ottoline', 'ravi'])

/** Who was invited and has not answered yet. */
export const invitedThere = 'imani'

export const quaysideAccount = {
  number: '4210-77',
  client: '8831',
  secret: 'gluten-free-wheat-paste',
  name: 'Fernhollow Conservation',
  users: people.filter(({ key }) => isUser.has(key)).map(({ name, email }) => ({ name, address: email })),
}
