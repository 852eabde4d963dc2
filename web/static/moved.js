// The page that is served over HTTP from elsewhere in the shop: it leads on to HTTPS, and takes along what waits in this address's own outbox.
const by = (id) => document.getElementById(id)

function outbox() {
  return new Promise((done) => {
    const asked = indexedDB.open('gradus', 1)
    asked.onupgradeneeded = () =>
      asked.result.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true })
    asked.onerror = () => done(null)
    asked.onsuccess = () => done(asked.result)
  })
}

const all = (db) =>
  new Promise((done) => {
    const asked = db.transaction('writes').objectStore('writes').getAll()
    asked.onsuccess = () => done(asked.result)
    asked.onerror = () => done([])
  })

const empty = (db, keys) =>
  new Promise((done) => {
    const change = db.transaction('writes', 'readwrite')
    for (const key of keys) change.objectStore('writes').delete(key)
    change.oncomplete = done
  })

async function start() {
  const way = await (await fetch('/network.json')).json()
  if (!way.httpsPort) {
    by('says').textContent =
      'From elsewhere in the shop Gradus is served over HTTPS only, and that is not set up yet. Whoever looks after it sets GRADUS_HTTPS_PORT, or runs ./gradus certificate to see how.'
    return
  }
  const there = `https://${location.hostname}:${way.httpsPort}`
  by('authority').hidden = !way.hasAuthority
  by('go').hidden = false
  if (!way.hasAuthority) by('go-title').textContent = 'Go on'
  const path = location.pathname === '/moved.html' ? '/' : location.pathname + location.search
  by('on').href = there + path

  const db = await outbox()
  const waiting = db ? await all(db) : []
  if (waiting.length === 0) {
    // A tablet that trusts the shop already is led on by itself.
    try {
      await fetch(`${there}/network.json`, { mode: 'no-cors', cache: 'no-store' })
      location.replace(there + path)
    } catch {
      // Not trusted yet: the page says how.
    }
    return
  }

  const words = `${waiting.length} ${waiting.length === 1 ? 'entry waits' : 'entries wait'} on this tablet under this address.`
  by('waiting').textContent =
    `${words} Taken along, ${waiting.length === 1 ? 'it goes' : 'they go'} to the server from there.`
  by('on').textContent = 'Take them along and go on'
  by('on').addEventListener('click', (event) => {
    event.preventDefault()
    const other = open(`${there}/moving.html`)
    addEventListener('message', async (message) => {
      if (message.origin !== there || message.source !== other) return
      if (message.data === 'ready') other.postMessage(waiting, there)
      if (message.data?.kept === waiting.length) {
        await empty(
          db,
          waiting.map((one) => one.seq),
        )
        by('waiting').textContent = 'Taken along. This page can be closed.'
        by('on').hidden = true
      }
    })
  })
}

void start()
