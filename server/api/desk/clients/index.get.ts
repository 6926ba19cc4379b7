import { getQuery } from 'h3'
import { findClients } from '../../../booking'
import { defineDeskCall } from '../../../http/member'
import { check } from '../../../http/problem'
import { clientsQuerySchema } from '../../../http/requests'

export default defineDeskCall('GET /api/desk/clients', async (event, { db }, member) =>
  findClients(db, member, check(clientsQuerySchema, getQuery(event)).search))
