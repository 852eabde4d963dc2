// Takes over what waited under the old address. It is shown first: what comes over HTTP could come from anybody.
const by = (id) => document.getElementById(id)
const METHODS = ['PUT', 'DELETE']

const isEntry = (one) =>
  one &&
  METHODS.includes(one.method) &&
  typeof one.path === 'string' &&
  one.path.startsWith('/api/coupons/') &&
  typeof one.author === 'string' &&
  one.author !== ''

function keep(entries) {
  return new Promise((done, failed) => {
    const asked = indexedDB.open('gradus', 1)
    asked.onupgradeneeded = () =>
      asked.result.createObjectStore('writes', { keyPath: 'seq', autoIncrement: true })
    asked.onerror = () => failed(asked.error)
    asked.onsuccess = () => {
      const change = asked.result.transaction('writes', 'readwrite')
      for (const one of entries) {
        const entry = { ...one }
        delete entry.seq // numbered anew here
        change.objectStore('writes').add(entry)
      }
      change.oncomplete = done
      change.onerror = () => failed(change.error)
    }
  })
}

addEventListener('message', (message) => {
  const from = new URL(message.origin)
  if (
    message.source !== opener ||
    from.protocol !== 'http:' ||
    from.hostname !== location.hostname ||
    !Array.isArray(message.data)
  )
    return
  const entries = message.data
  if (!entries.every(isEntry)) {
    by('says').textContent = 'What came is none of ours, and is not kept.'
    return
  }
  by('says').textContent = 'These waited on this tablet:'
  by('list').replaceChildren(
    ...entries.map((one) => {
      const row = document.createElement('li')
      row.textContent = `${one.label ?? one.path}${one.authorName ? `, ${one.authorName}` : ''}${one.happenedAt ? `, ${new Date(one.happenedAt).toLocaleString()}` : ''}`
      return row
    }),
  )
  by('keep').hidden = false
  by('keep').onclick = async () => {
    by('keep').hidden = true
    await keep(entries)
    by('says').textContent = 'Kept. They go to the server when somebody signs in.'
    by('on').hidden = false
    opener.postMessage({ kept: entries.length }, message.origin)
  }
})
opener?.postMessage('ready', '*')
