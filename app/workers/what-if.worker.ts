import { playWhatIf, type WhatIfData, type WhatIfHost } from '~~/core/rotation/what-if'

/** Plays what if for the screen: first come the data, then one question after the other. */

type Question = { data: WhatIfData } | { id: number, hosts: WhatIfHost[] }

let data: WhatIfData | null = null

self.onmessage = ({ data: question }: MessageEvent<Question>) => {
  if ('data' in question) data = question.data
  else if (data) self.postMessage({ id: question.id, result: playWhatIf(data, question.hosts) })
}
