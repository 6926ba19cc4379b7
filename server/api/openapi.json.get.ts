import { openApiDocument } from '../http/openapi'
import { defineCall } from '../http/problem'

export default defineCall(async (_event, { settings }) => openApiDocument(settings.baseUrl))
