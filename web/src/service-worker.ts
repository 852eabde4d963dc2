/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />
/// <reference types="@sveltejs/kit" />
import { READ_CACHE } from '$lib/read-ahead'
import { build, files, version } from '$service-worker'

// The page and its parts are kept as they were built; what was read of the school is kept as it was last read. What is written goes through the
// outbox of the page, and never through here.
const worker = globalThis as unknown as ServiceWorkerGlobalScope
const SHELL = `gradus-page-${version}`
const PAGE = '/index.html'
const SLOW_MS = 4000
const MOST_KEPT = 600

worker.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(SHELL)
      .then((cache) => cache.addAll([PAGE, ...build, ...files.filter((one) => !/\.(br|gz)$/.test(one))])),
  )
})

worker.addEventListener('activate', (event) => {
  event.waitUntil(
    (async () => {
      for (const name of await caches.keys())
        if (name.startsWith('gradus-page-') && name !== SHELL) await caches.delete(name)
      await worker.clients.claim()
    })(),
  )
})

worker.addEventListener('message', (event) => {
  // A new page takes over when the old one has sent what waited, and says so.
  if (event.data === 'take-over') void worker.skipWaiting()
})

worker.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== worker.location.origin) return
  if (request.mode === 'navigate') event.respondWith(page(request))
  else if (url.pathname.startsWith('/api/')) {
    if (isKept(url)) event.respondWith(read(request, url))
  } else if (!url.pathname.startsWith('/openapi') && !url.pathname.startsWith('/calendar'))
    event.respondWith(part(request))
})

/** The page itself: the one that was built, under whatever path. */
async function page(request: Request): Promise<Response> {
  return (await caches.match(PAGE, { cacheName: SHELL })) ?? fetch(request)
}

async function part(request: Request): Promise<Response> {
  return (await caches.match(request, { cacheName: SHELL, ignoreSearch: true })) ?? fetch(request)
}

/** Of what is asked, what is kept: not the stream of changes, no health, no files to take away. */
const isKept = (url: URL) => !/\/(events|health.*|file|.*\.csv|.*\.ics)$/.test(url.pathname)

/** From the server while it answers; else as it was last read. */
async function read(request: Request, url: URL): Promise<Response> {
  const cache = await caches.open(READ_CACHE)
  const key = url.pathname + url.search
  try {
    const answer = await fetch(
      request,
      worker.navigator.onLine ? {} : { signal: AbortSignal.timeout(SLOW_MS) },
    )
    if (answer.ok) void keep(cache, key, answer.clone())
    return answer
  } catch (error) {
    const kept = await cache.match(key)
    if (kept) return kept
    throw error
  }
}

async function keep(cache: Cache, key: string, answer: Response) {
  await cache.delete(key) // so that the oldest stand first
  await cache.put(key, answer)
  const keys = await cache.keys()
  for (const one of keys.slice(0, Math.max(0, keys.length - MOST_KEPT))) await cache.delete(one)
}
