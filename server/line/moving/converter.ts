import { patience } from '../../base/patience.ts'
import { programOf } from '../../base/programs.ts'
import { fork, type ChildProcess } from 'node:child_process'
import type { FileFacts } from '#core/formats/file-facts.ts'
import { inspectFile } from '#core/formats/image/inspect.ts'
import type { Done, Job } from './convert-child.ts'

/** A picture that could not be made into another: the reason is a code. */
export class NotConverted extends Error {}

export const mostPictureBytes = 200_000_000
const mostPixels = 120_000_000

interface Waiting {
  readonly resolve: (bytes: Uint8Array) => void
  readonly reject: (error: Error) => void
  readonly timer: NodeJS.Timeout
}

export interface Converter {
  /** @throws NotConverted */
  run(bytes: Uint8Array, type: string, make: Job['make']): Promise<Uint8Array>
  close(): Promise<void>
}

/**
 * One process that decodes, started when it is first asked and killed when a picture takes longer than it may: the next
 * picture gets a new one. A decoder that falls takes nothing with it.
 */
export function createConverter({ timeoutMs = patience.picture.timeoutMs as number } = {}): Converter {
  let child: ChildProcess | undefined
  let nextId = 1
  const waiting = new Map<number, Waiting>()
  const failAll = (code: string) => {
    for (const { reject, timer } of waiting.values()) {
      clearTimeout(timer)
      reject(new NotConverted(code))
    }
    waiting.clear()
  }
  function start(): ChildProcess {
    const { file, execArgv } = programOf('server/line/moving/convert-child.ts')
    const started = fork(file, [], {
      execArgv: [...execArgv, '--max-old-space-size=512'],
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      // nothing of ours: no key, no address of the database
      env: { PATH: process.env.PATH ?? '', HOME: process.env.HOME ?? '' },
    })
    started.unref()
    started.channel?.unref()
    started.on('message', (message) => {
      const done = message as Done
      const job = waiting.get(done.id)
      if (!job) return
      waiting.delete(done.id)
      clearTimeout(job.timer)
      if ('bytes' in done) job.resolve(done.bytes)
      else job.reject(new NotConverted(done.failed))
    })
    const ended = () => {
      if (child !== started) return
      child = undefined
      failAll('decoder-ended')
    }
    started.on('error', ended)
    started.on('exit', ended)
    return started
  }
  return {
    run(bytes, type, make) {
      if (bytes.length > mostPictureBytes) return Promise.reject(new NotConverted('too-large'))
      child ??= start()
      const id = nextId++
      return new Promise((resolve, reject) => {
        const timer = setTimeout(() => {
          const old = child
          child = undefined
          old?.kill('SIGKILL')
          failAll('too-slow')
        }, timeoutMs)
        waiting.set(id, { resolve, reject, timer })
        child!.send({ id, bytes, type, mostPixels, make } satisfies Job)
      })
    },
    async close() {
      const old = child
      child = undefined
      failAll('decoder-ended')
      old?.kill('SIGKILL')
    },
  }
}

let shared: Converter | undefined
/** The process's own converter. */
export function converter(): Converter {
  return (shared ??= createConverter())
}

/**
 * Makes a JPEG of a picture a phone can't show: upright, with its date and place kept, and looked into afterwards.
 * @throws NotConverted also when date or place did not come with it
 */
export async function toJpeg(bytes: Uint8Array, type: string, through: Converter = converter()): Promise<Uint8Array> {
  const before = await inspectFile(bytes)
  const made = await through.run(bytes, type, { as: 'jpeg', exif: exifOf(before) })
  const after = await inspectFile(made)
  const isDateKept = JSON.stringify(after.taken) === JSON.stringify(before.taken) && after.offsetMinutes === before.offsetMinutes
  const isPlaceKept =
    before.place === undefined
      ? after.place === undefined
      : after.place !== undefined &&
        Math.abs(after.place.latitude - before.place.latitude) < 0.0001 &&
        Math.abs(after.place.longitude - before.place.longitude) < 0.0001
  if (!isDateKept || !isPlaceKept || after.orientation !== 1) throw new NotConverted('notes-not-kept')
  return made
}

/** What stays of a picture's notes, as Exif directories: date and place; its turning is done. */
function exifOf({ taken, offsetMinutes, place }: FileFacts): Record<string, Record<string, string>> {
  const two = (n: number) => String(n).padStart(2, '0')
  const exif: Record<string, Record<string, string>> = { IFD0: { Orientation: '1' } }
  if (taken) {
    exif.IFD2 = {
      DateTimeOriginal: `${String(taken.year).padStart(4, '0')}:${two(taken.month)}:${two(taken.day)} ${two(taken.hour)}:${two(taken.minute)}:${two(taken.second)}`,
    }
    if (offsetMinutes !== undefined)
      exif.IFD2.OffsetTimeOriginal = `${offsetMinutes < 0 ? '-' : '+'}${two(Math.floor(Math.abs(offsetMinutes) / 60))}:${two(Math.abs(offsetMinutes) % 60)}`
  }
  if (place) {
    const parts = (angle: number) => {
      const whole = Math.abs(angle)
      const minutes = (whole % 1) * 60
      return `${Math.floor(whole)}/1 ${Math.floor(minutes)}/1 ${Math.round((minutes % 1) * 600_000)}/10000`
    }
    exif.IFD3 = {
      GPSLatitudeRef: place.latitude < 0 ? 'S' : 'N',
      GPSLatitude: parts(place.latitude),
      GPSLongitudeRef: place.longitude < 0 ? 'W' : 'E',
      GPSLongitude: parts(place.longitude),
    }
  }
  return exif
}
