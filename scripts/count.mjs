// Adds up the results of every runner. A report that is missing or empty counts as a failure: a runner that died is not a pass.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'

const folder = process.argv[2]
const total = { passed: 0, failed: 0, skipped: 0 }
const names = []

function add(name, read) {
  let found = { passed: 0, failed: 0, skipped: 0 }
  try {
    found = read(readFileSync(join(folder, name), 'utf8'))
  } catch (error) {
    console.log(`No result of ${name}: ${error.message}`)
  }
  if (found.passed + found.failed === 0) found.failed = 1
  for (const key of Object.keys(total)) total[key] += found[key]
}

const ctrf = (text) => {
  const { summary, tests } = JSON.parse(text).results
  const { passed, failed, skipped, pending, other } = summary
  names.push(...tests.filter((test) => test.status === 'failed' || test.status === 'other').map((test) => test.name))
  return { passed, failed: failed + other, skipped: skipped + pending }
}
add('checks', (text) => ({ passed: text.match(/^pass$/gm)?.length ?? 0, failed: text.match(/^fail$/gm)?.length ?? 0, skipped: 0 }))
add('Core.ctrf.json', ctrf)
add('Server.ctrf.json', ctrf)
add('vitest.json', (text) => {
  const report = JSON.parse(text)
  const broken = report.testResults.filter((suite) => suite.status === 'failed' && suite.assertionResults.length === 0).length
  return { passed: report.numPassedTests, failed: report.numFailedTests + broken, skipped: report.numPendingTests + report.numTodoTests }
})
add('e2e.json', (text) => {
  const { stats, errors } = JSON.parse(text)
  return { passed: stats.expected, failed: stats.unexpected + stats.flaky + errors.length, skipped: stats.skipped }
})

for (const name of names) console.log(`FAILED: ${name}`)
console.log(`\n${total.passed} passed, ${total.failed} failed, ${total.skipped} skipped`)
process.exit(total.failed > 0 ? 1 : 0)
