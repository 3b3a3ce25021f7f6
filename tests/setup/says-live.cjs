// Loaded into a process of ours that a test watches: asked by a signal, it collects and says what is still held.
process.on('SIGUSR2', () => {
  globalThis.gc()
  const { heapUsed, external } = process.memoryUsage()
  process.stdout.write(`live ${heapUsed + external} bytes\n`)
})
