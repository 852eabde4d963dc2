import { execFileSync, spawn } from 'node:child_process'
import { cpSync, mkdtempSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..')

const devices = join(root, 'src/Gradus.Simulators/bin/Release/net10.0/Gradus.Simulators.dll')

/** The lines that a simulated device says before it ends. */
export const simulated = (...args) => execFileSync('dotnet', [devices, ...args], { encoding: 'utf8' }).trim().split('\n')

/** A simulated device as a process of its own, until it is killed. */
export const simulating = (...args) => spawn('dotnet', [devices, ...args], { stdio: 'inherit' })

export async function freePort() {
  const probe = createServer().listen(0, '127.0.0.1')
  await new Promise((done) => probe.once('listening', done))
  const { port } = probe.address()
  await new Promise((done) => probe.close(done))
  return port
}

/** The built server as a process of its own, which can be killed and started again on the same data. */
export class Server {
  constructor({ demo = true, data = undefined } = {}) {
    this.demo = demo
    this.data = data ?? mkdtempSync(join(tmpdir(), 'gradus-'))
    // A demo school that was made before is not made again.
    if (demo && !data && process.env.GRADUS_E2E_SEED) cpSync(process.env.GRADUS_E2E_SEED, this.data, { recursive: true })
  }

  /**
   * @param {Record<string, string>} [env] what it is told besides
   * @param {string} [content] where the built interface lies, when it is a copy
   */
  async start(env, content) {
    this.env = env ?? this.env
    this.content = content ?? this.content ?? join(root, 'src/Gradus.Server')
    this.port ??= await freePort()
    this.url = `http://127.0.0.1:${this.port}`
    const dll = process.env.GRADUS_SERVER ?? join(root, 'src/Gradus.Server/bin/Release/net10.0/Gradus.Server.dll')
    this.process = spawn('dotnet', [dll, '--contentRoot', this.content], {
      env: {
        ...process.env,
        GRADUS_PORT: String(this.port),
        GRADUS_HOST: '127.0.0.1',
        GRADUS_DATA: this.data,
        GRADUS_DEMO: this.demo ? '1' : '0',
        // A test that lasts longer than two minutes is not to be backed up in the middle.
        GRADUS_BACKUP_NIGHTLY: '0',
        ...this.env,
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    })
    // A demo school may have to be made first; how fast a server is ready is measured in bench/.
    const deadline = Date.now() + 110_000
    while (Date.now() < deadline) {
      if (this.process.exitCode !== null) throw new Error(`The server ended with ${this.process.exitCode}.`)
      try {
        if ((await fetch(`${this.url}/api/health`)).ok) return this
      } catch {
        // Not listening yet.
      }
      await new Promise((done) => setTimeout(done, 50))
    }
    throw new Error('The server did not become ready.')
  }

  async kill(signal = 'SIGKILL') {
    if (this.process.exitCode !== null || this.process.signalCode !== null) return
    const ended = new Promise((done) => this.process.once('exit', done))
    this.process.kill(signal)
    await ended
  }
}
