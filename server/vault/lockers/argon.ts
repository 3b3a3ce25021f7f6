import { argon2id } from 'hash-wasm'

/** How a passphrase becomes a key (RFC 9106): memory in KiB, passes, lanes; the salt in hex. */
export interface Argon {
  readonly salt: string
  readonly memoryKiB: number
  readonly passes: number
  readonly lanes: number
}

/** RFC 9106, section 4, the second recommended option, with what one lane takes: a third of a second on a shop's computer. */
export const usualArgon = { memoryKiB: 65_536, passes: 3, lanes: 1 } as const

/** A key of 32 bytes of a passphrase. It runs in a thread: it is made to take time. */
export async function keyOfPassphrase({ passphrase, how }: { passphrase: string; how: Argon }): Promise<string> {
  return argon2id({
    // however it was typed: composed and decomposed letters are one
    password: passphrase.normalize('NFC'),
    salt: Buffer.from(how.salt, 'hex'),
    memorySize: how.memoryKiB,
    iterations: how.passes,
    parallelism: how.lanes,
    hashLength: 32,
    outputType: 'hex',
  })
}
