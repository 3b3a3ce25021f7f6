import { spawnSync } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { folderFor, ownUser } from './own-user.ts'

describe.runIf(process.getuid?.() === 0)('started as root', () => {
  it('processes run as a user of their own, which reads its key and writes its data and nothing of root’s', () => {
    const user = ownUser()
    // a checkout under /root: said, and nothing else to be had
    if (!user) return
    const folder = mkdtempSync(join(tmpdir(), 'own-'))
    try {
      chmodSync(folder, 0o755)
      const [key, secret] = [join(folder, 'master.key'), join(folder, 'shop.json')]
      for (const file of [key, secret]) writeFileSync(file, 'x', { mode: 0o600 })
      const data = folderFor(user, join(folder, 'data'), [key])
      expect([data, statSync(data).uid, statSync(data).mode & 0o777]).toEqual([join(folder, 'data'), user.uid, 0o700])
      const can = (script: string) => spawnSync(process.execPath, ['-e', script], { ...user, cwd: '/' }).status === 0
      expect(can(`process.exit(process.getuid() === ${user.uid} ? 0 : 1)`)).toBe(true)
      expect(can(`require('fs').readFileSync('${key}')`)).toBe(true)
      expect(can(`require('fs').writeFileSync('${data}/a', 'x')`)).toBe(true)
      expect(can(`require('fs').readFileSync('${secret}')`)).toBe(false)
      expect(can(`require('fs').writeFileSync('${folder}/b', 'x')`)).toBe(false)
      chmodSync(folder, 0o700)
      const elsewhere = folderFor(user, join(folder, 'data'))
      expect(elsewhere).toMatch(/^\/var\/lib\/corvend\/.*-data$/)
      expect(can(`require('fs').writeFileSync('${elsewhere}/a', 'x')`)).toBe(true)
      rmSync(elsewhere, { recursive: true })
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })
})
