import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { chownSync, existsSync, mkdirSync, readdirSync, statSync } from 'node:fs'
import { join, resolve } from 'node:path'

/** Who processes run as: a user with no rights but its own. */
export interface OwnUser {
  readonly uid: number
  readonly gid: number
}

const isRoot = process.getuid?.() === 0

/**
 * The user that web, worker and practice phones run as when all is started as root; made at the first use. Undefined
 * where we are nobody special anyway, or where that user can't be made or can't enter the project's folder: then it is
 * said in one line.
 */
export function ownUser(name = 'corvend'): OwnUser | undefined {
  if (!isRoot) return undefined
  if (spawnSync('id', [name]).status !== 0) {
    const made = spawnSync(
      'useradd',
      ['--system', '--user-group', '--no-create-home', '--home-dir', '/nonexistent', '--shell', '/usr/sbin/nologin', name],
      { encoding: 'utf8' },
    )
    if (made.status !== 0) {
      console.error(`The user ${name} could not be made, so everything runs as root: ${(made.stderr ?? made.error?.message ?? '').trim()}`)
      return undefined
    }
  }
  const [uid, gid] = ['-u', '-g'].map((flag) => Number(execFileSync('id', [flag, name], { encoding: 'utf8' })))
  if (!canEnter(name, process.cwd())) {
    console.error(`The user ${name} can't enter this folder, so everything runs as root. Move it to where others may read, /srv for one.`)
    return undefined
  }
  return { uid: uid!, gid: gid! }
}

/** A folder of a user's own: where it is wanted if that user can enter it, else where it can, said in one line. @param files that it reads */
export function folderFor(user: OwnUser | undefined, wanted: string, files: readonly string[] = [], name = 'corvend'): string {
  mkdirSync(wanted, { recursive: true, mode: 0o700 })
  if (!user) return wanted
  for (const path of [wanted, ...files]) chownSync(path, user.uid, user.gid)
  if (canEnter(name, wanted)) return wanted
  const other = join('/var/lib/corvend', `${createHash('sha256').update(resolve(wanted)).digest('hex').slice(0, 12)}-data`)
  if (!existsSync(other)) console.error(`The user ${name} can't enter ${wanted}; its data is kept in ${other}.`)
  mkdirSync('/var/lib/corvend', { recursive: true, mode: 0o755 })
  mkdirSync(other, { recursive: true, mode: 0o700 })
  chownSync(other, user.uid, user.gid)
  return other
}

/** Makes files, and folders with the files in them, that user's own. */
export function giveTo(user: OwnUser | undefined, paths: readonly string[]): void {
  if (!user) return
  for (const path of paths.filter((one) => existsSync(one))) {
    chownSync(path, user.uid, user.gid)
    if (statSync(path).isDirectory())
      for (const name of readdirSync(path, { recursive: true })) chownSync(join(path, String(name)), user.uid, user.gid)
  }
}

function canEnter(name: string, path: string): boolean {
  return spawnSync('runuser', ['-u', name, '--', 'test', '-x', resolve(path)]).status === 0
}
