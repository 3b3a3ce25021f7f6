/** Runs a function of a file in this thread. */
export default async function run({ file, name, task }) {
  // a thread's first file can't be TypeScript: sources go on from here
  if (file.endsWith('.ts')) (await import('tsx/esm/api')).register()
  return (await import(file))[name](task)
}
