// Loaded into a process of ours that a test watches: asked by a signal, it collects and says what is still held, and the
// longest its main thread worked without a look at anything else since it was asked last. What it waited for others is none
// of that.
import { readFileSync } from 'node:fs'
import { isMainThread } from 'node:worker_threads'

/** Time its main thread has had of a processor, in milliseconds. A tick of the kernel's is 10. */
function ranMs() {
  const stat = readFileSync(`/proc/self/task/${process.pid}/stat`, 'latin1')
  const [userTicks, systemTicks] = stat
    .slice(stat.lastIndexOf(')') + 2)
    .split(' ')
    .slice(11, 13)
  return (Number(userTicks) + Number(systemTicks)) * 10
}

let [last, longest] = [0, 0]
function look() {
  const now = ranMs()
  longest = Math.max(longest, now - last)
  last = now
}
// its threads load this, too, and are not watched
if (isMainThread) {
  setInterval(look, 10).unref()
  process.on('SIGUSR2', () => {
    look()
    globalThis.gc()
    const { heapUsed, external } = process.memoryUsage()
    process.stdout.write(`live ${heapUsed + external} bytes, longest ${longest} ms\n`)
    // collecting because it was asked is no work of its own
    last = ranMs()
    longest = 0
  })
}
