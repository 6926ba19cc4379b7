import { createServer, type RequestListener, type Server } from 'node:http'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer as createSecureServer } from 'node:https'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { afterEach, describe, expect, it } from 'vitest'
import { makeOutside, OutsideFault, type OutsideRequest, type OutsideSettings } from '.'

const servers: Server[] = []
const outsides: { close: () => Promise<void> }[] = []
afterEach(async () => {
  await Promise.all(outsides.splice(0).map(outside => outside.close()))
  for (const server of servers.splice(0)) {
    server.closeAllConnections()
    server.close()
  }
})

function serve(listener: RequestListener, address?: string, port?: number): Promise<number> {
  return listen(createServer(listener), address, port)
}

async function listen(server: Server, address = '127.0.0.1', port = 0): Promise<number> {
  servers.push(server)
  await new Promise<void>(resolve => server.listen(port, address, resolve))
  const bound = server.address()
  return typeof bound === 'object' && bound ? bound.port : 0
}

function outside(settings: Partial<OutsideSettings> = {}) {
  const made = makeOutside({ allowedHosts: new Set(), resolve: () => Promise.reject(Object.assign(new Error('no'), { code: 'ENOTFOUND' })), ...settings })
  outsides.push(made)
  return made
}

async function codeOf(address: string, settings: Partial<OutsideSettings> = {}, request: OutsideRequest = {}): Promise<string> {
  try {
    return String((await outside(settings).fetch(address, { timeoutMs: 3000, ...request })).status)
  } catch (error) {
    return error instanceof OutsideFault ? error.code : String(error)
  }
}

describe('addresses of no public network', () => {
  it.each([
    '127.0.0.1', '127.1', '127.255.255.254', '2130706433', '0x7f000001', '0x7f.1', '017700000001', '0177.0.0.1', '0', '0.0.0.0', '10.0.0.1', '10.255.1.2',
    '172.16.0.1', '172.31.255.255', '192.168.1.1', '169.254.169.254', '0xa9fea9fe', '169.254.1.1', '100.64.0.1', '100.100.100.200', '192.0.0.192',
    '168.63.129.16', '198.18.0.1', '224.0.0.1', '240.0.0.1', '255.255.255.255', '192.0.2.1', '[::1]', '[::]', '[::ffff:127.0.0.1]', '[::ffff:a9fe:a9fe]',
    '[::ffff:10.0.0.1]', '[fe80::1]', '[fc00::1]', '[fd00:ec2::254]', '[fec0::1]', '[64:ff9b::7f00:1]', '[2002:7f00:1::]', '[2001:0:7f00:1::]', '[ff02::1]',
    '①②⑦.0.0.1', '127。0。0。1',
  ])('refuses %s', async host => expect(await codeOf(`http://${host}/feed.ics`)).toBe('notAllowed'))

  it.each(['127.0.0.1', '10.1.2.3', '169.254.169.254', '::1', 'fd00::1', '::ffff:192.168.0.1'])('refuses names that lead to %s', async address =>
    expect(await codeOf('http://calendar.example/feed.ics', { resolve: () => Promise.resolve([address]) })).toBe('notAllowed'))

  it('refuses a name that leads to a public and to a private address, and localhost by any name', async () => {
    expect(await codeOf('http://calendar.example/', { resolve: () => Promise.resolve(['93.184.215.14', '127.0.0.1']) })).toBe('notAllowed')
    for (const name of ['localhost', 'localhost.', 'LOCALHOST', 'sub.localhost'])
      expect(await codeOf(`http://${name}/`, { resolve: () => Promise.resolve(['127.0.0.1']) }), name).toBe('notAllowed')
  })

  it('refuses what is no address of the web', async () => {
    for (const address of ['', 'calendar', 'ftp://calendar.example/', 'file:///etc/passwd', 'javascript:alert(1)', 'http://', 'gopher://x/'])
      expect(await codeOf(address), address).toBe('noAddress')
  })
})

describe('connecting', () => {
  it('goes to the address that was checked, whatever the name leads to a moment later', async () => {
    const port = await serve((_, response) => response.end('first'), '127.0.0.2')
    await serve((_, response) => response.end('second'), '127.0.0.1', port)
    const answers = [['127.0.0.2'], ['127.0.0.1']]
    const made = outside({ isFit: address => address === '127.0.0.2', resolve: () => Promise.resolve(answers.shift() ?? ['127.0.0.1']) })
    expect((await made.fetch(`http://calendar.example:${port}/`)).text).toBe('first')
  })

  it('reaches hosts that the operator allows, by their port', async () => {
    const port = await serve((_, response) => response.end('here'))
    expect(await codeOf(`http://127.0.0.1:${port}/`, { allowedHosts: new Set([`127.0.0.1:${port}`]) })).toBe('200')
    expect(await codeOf(`http://127.0.0.1:${port}/`, { allowedHosts: new Set([`127.0.0.1:${port + 1}`]) })).toBe('notAllowed')
  })

  it('says what went wrong', async () => {
    const port = await serve(() => {})
    const allowed = { allowedHosts: new Set([`127.0.0.1:${port}`, '127.0.0.1:9']) }
    expect(await codeOf(`http://127.0.0.1:${port}/`, allowed, { timeoutMs: 300 })).toBe('timedOut')
    expect(await codeOf(`https://127.0.0.1:${port}/`, allowed, { timeoutMs: 1000 })).toMatch(/timedOut|noEncryption/)
    expect(await codeOf('http://127.0.0.1:9/', allowed)).toBe('unreachable')
    expect(await codeOf('http://nowhere.example/')).toBe('unknownHost')
  })
})

describe('redirects', () => {
  it('are followed five times, checked each time, and never given credentials of another origin', async () => {
    const seen: (string | undefined)[] = []
    const target = await serve((request, response) => {
      seen.push(request.headers.authorization)
      response.end('there')
    })
    const port = await serve((request, response) => {
      seen.push(request.headers.authorization)
      const left = Number(request.url?.slice(1))
      const to = Number.isNaN(left) ? request.url?.slice(1) ?? '' : left === 0 ? `http://127.0.0.1:${target}/` : `/${left - 1}`
      response.writeHead(302, { location: decodeURIComponent(to) }).end()
    })
    const allowed = { allowedHosts: new Set([`127.0.0.1:${port}`, `127.0.0.1:${target}`]) }
    const request = { credentials: { origin: `http://127.0.0.1:${port}`, authorization: 'Basic secret' } }
    expect(await codeOf(`http://127.0.0.1:${port}/1`, allowed, request)).toBe('200')
    expect(seen).toEqual(['Basic secret', 'Basic secret', undefined])
    expect(await codeOf(`http://127.0.0.1:${port}/4`, allowed)).toBe('200')
    expect(await codeOf(`http://127.0.0.1:${port}/5`, allowed)).toBe('manyRedirects')
    for (const to of ['http://127.0.0.1:1/', 'http://169.254.169.254/latest/meta-data', 'http://[::1]/'])
      expect(await codeOf(`http://127.0.0.1:${port}/${encodeURIComponent(to)}`, allowed), to).toBe('notAllowed')
  })

  it('never lead from https to http', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'temporia-tls-'))
    execFileSync('openssl', ['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-days', '2', '-subj', '/CN=127.0.0.1',
      '-addext', 'subjectAltName=IP:127.0.0.1', '-keyout', join(folder, 'key'), '-out', join(folder, 'cert')], { stdio: 'ignore' })
    const [key, cert] = [readFileSync(join(folder, 'key'), 'utf8'), readFileSync(join(folder, 'cert'), 'utf8')]
    rmSync(folder, { recursive: true })
    const plain = await serve((_, response) => response.end('there'))
    const target = { address: '' }
    const secure = await listen(createSecureServer({ key, cert }, (request, response) => {
      if (request.url === '/') response.writeHead(302, { location: target.address }).end()
      else response.end('here')
    }))
    const settings = { allowedHosts: new Set([`127.0.0.1:${plain}`, `127.0.0.1:${secure}`]), authority: cert }
    target.address = `https://127.0.0.1:${secure}/further`
    expect(await codeOf(`https://127.0.0.1:${secure}/`, settings)).toBe('200')
    target.address = `http://127.0.0.1:${plain}/`
    expect(await codeOf(`https://127.0.0.1:${secure}/`, settings)).toBe('insecureRedirect')
    expect(await codeOf(`https://127.0.0.1:${secure}/`, { allowedHosts: settings.allowedHosts })).toBe('certificate')
  })

  it('gives up on answers that are too large, packed or not', async () => {
    const large = Buffer.alloc(21_000_000, 'a')
    const packed = gzipSync(large)
    const port = await serve((request, response) =>
      (request.url === '/packed' ? response.writeHead(200, { 'content-encoding': 'gzip' }).end(packed) : response.end(large)))
    const allowed = { allowedHosts: new Set([`127.0.0.1:${port}`]) }
    for (const path of ['plain', 'packed']) expect(await codeOf(`http://127.0.0.1:${port}/${path}`, allowed), path).toBe('tooLarge')
  })
})
