import { connect, createServer, type Socket } from 'node:net'

/** Stands between an application and PostgreSQL, and can cut, freeze or watch what goes through. */
export interface DatabaseProxy {
  port: number
  /** Breaks all connections and refuses new ones until `mend`. */
  cut: () => void
  /** Keeps connections open and lets nothing through until `mend`. */
  freeze: () => void
  mend: () => void
  /** Calls back once so many more messages have come from the application, the last of them passed on or not. */
  afterMessages: (count: number, passedOn: boolean, then: () => void) => void
  /** Messages from the application since the last call. */
  takeCount: () => number
  close: () => Promise<void>
}

export async function startDatabaseProxy(databasePort: number): Promise<DatabaseProxy> {
  let state: 'open' | 'cut' | 'frozen' = 'open'
  let count = 0
  let trap: { at: number, passedOn: boolean, then: () => void } | null = null
  const sockets = new Set<Socket>()

  const server = createServer((client) => {
    if (state === 'cut') {
      client.destroy()
      return
    }
    const upstream = connect(databasePort, '127.0.0.1')
    for (const socket of [client, upstream]) {
      sockets.add(socket)
      socket.on('error', () => {})
      socket.on('close', () => {
        sockets.delete(socket)
        client.destroy()
        upstream.destroy()
      })
      if (state === 'frozen') socket.pause()
    }
    client.on('data', (chunk) => {
      count++
      if (trap && count >= trap.at) {
        const { then, passedOn } = trap
        trap = null
        if (passedOn) upstream.write(chunk)
        then()
        return
      }
      upstream.write(chunk)
    })
    upstream.on('data', chunk => client.write(chunk))
  })
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  const address = server.address()
  return {
    port: typeof address === 'object' && address ? address.port : 0,
    cut: () => {
      state = 'cut'
      for (const socket of sockets) socket.destroy()
    },
    freeze: () => {
      state = 'frozen'
      for (const socket of sockets) socket.pause()
    },
    mend: () => {
      state = 'open'
      for (const socket of sockets) socket.resume()
    },
    afterMessages: (more, passedOn, then) => (trap = { at: count + more, passedOn, then }),
    takeCount: () => {
      const taken = count
      count = 0
      return taken
    },
    close: async () => {
      for (const socket of sockets) socket.destroy()
      await new Promise(resolve => server.close(resolve))
    },
  }
}
