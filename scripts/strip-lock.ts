import { readFileSync, writeFileSync } from 'node:fs'

/** Takes download addresses out of the lockfile: a package is known by its name, version and integrity alone. Run after `npm install`. */
const lock = JSON.parse(readFileSync('package-lock.json', 'utf8')) as { packages: Record<string, { resolved?: string }> }
for (const entry of Object.values(lock.packages)) delete entry.resolved
writeFileSync('package-lock.json', JSON.stringify(lock, null, 2) + '\n')
