import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { Server } from './server.mjs'

async function make(data) {
  const server = await new Server({ data }).start()
  await server.kill('SIGTERM')
}

/** Makes the demo school once; every file of tests gets a copy of it. One that was made before is taken as it is. */
export default async function seed() {
  if (process.env.GRADUS_E2E_SEED) return
  const data = mkdtempSync(join(tmpdir(), 'gradus-seed-'))
  await make(data)
  process.env.GRADUS_E2E_SEED = data
  return () => rmSync(data, { recursive: true, force: true })
}

// Started by itself it makes the school in the folder that it is told.
if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await make(process.argv[2])
