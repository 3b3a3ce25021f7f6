/** The code something was refused with. */
export const codeOf = (asked: Promise<unknown>): Promise<string> =>
  asked.then(
    () => 'nothing was refused',
    (error: { code: string }) => error.code,
  )
