import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Server } from './server.mjs'

/** Makes the demo school once; every file of tests gets a copy of it. */
export default async function seed() {
  const data = mkdtempSync(join(tmpdir(), 'gradus-seed-'))
  const server = await new Server({ data }).start()
  await server.kill('SIGTERM')
  process.env.GRADUS_E2E_SEED = data
  return () => rmSync(data, { recursive: true, force: true })
}
