import { register } from 'tsx/esm/api'

// a thread's first file can't be TypeScript: it goes on from here
register()

/** Runs a function of a source file in this thread. */
export default async function run({ file, name, task }) {
  return (await import(file))[name](task)
}
