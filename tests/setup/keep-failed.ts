import { afterEach } from 'vitest'
import { keepWhatFailed } from './browser.ts'

afterEach(async ({ task }) => {
  if (task.result?.state === 'fail') await keepWhatFailed(task)
})
