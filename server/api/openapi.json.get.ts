import { openApiDocument } from '../http/openapi'
import { defineCall } from '../http/define'

export default defineCall('GET /api/openapi.json', async (_event, { settings }) => openApiDocument(settings.baseUrl))
