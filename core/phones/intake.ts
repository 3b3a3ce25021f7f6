/** Questions at the counter: can this job be taken? Answers are codes, never a customer's words. */
export const intakeQuestions = [
  { code: 'screen', ask: 'The old phone’s screen shows', answers: ['yes', 'partly', 'no'] },
  { code: 'touch', ask: 'Its touch works', answers: ['yes', 'partly', 'no'] },
  { code: 'power', ask: 'Both phones turn on', answers: ['yes', 'old-not', 'new-not'] },
  { code: 'passcode', ask: 'Who knows the passcode', answers: ['customer-here', 'customer-later', 'nobody'] },
  { code: 'password', ask: 'Account password and second step at hand', answers: ['yes', 'later', 'no'] },
  { code: 'owner-lock', ask: 'Owner lock', answers: ['own', 'old-locked-other', 'new-locked-other'] },
  { code: 'run-by', ask: 'Run by an employer or a school', answers: ['no', 'partly', 'whole'] },
  { code: 'child', ask: 'A child’s phone', answers: ['no', 'parent-here', 'parent-not-here'] },
  { code: 'lost', ask: 'Reported lost or stolen', answers: ['no', 'yes'] },
] as const

export type IntakeCode = (typeof intakeQuestions)[number]['code']
export type IntakeAnswers = Partial<Record<IntakeCode, string>>

export type IntakeVerdict = 'go' | 'limit' | 'no'
export interface IntakeResult {
  readonly verdict: IntakeVerdict
  /** What each answer that is not plain “go” means, with the sentence for the customer by its code. */
  readonly because: readonly {
    readonly code: IntakeCode
    readonly answer: string
    readonly verdict: IntakeVerdict
    readonly sentence: string
  }[]
  /** Questions not answered yet. */
  readonly open: readonly IntakeCode[]
}

/** What an answer means. One that is not listed is plain go. No answer ever leads round a lock. */
const meanings: Readonly<Record<string, { verdict: IntakeVerdict; sentence: string }>> = {
  'screen partly': {
    verdict: 'limit',
    sentence: 'We can try while the screen holds. If it fails we stop, and you have the old phone back as it is.',
  },
  'screen no': {
    verdict: 'no',
    sentence: 'The phone has to show its questions and be answered. Have the screen mended first; we look at it again then.',
  },
  'touch partly': { verdict: 'limit', sentence: 'It may take longer: the questions on the phone must be answered by touch.' },
  'touch no': { verdict: 'no', sentence: 'Nobody can unlock the phone or answer it without touch. Have it mended first.' },
  'power old-not': {
    verdict: 'no',
    sentence: 'A phone that does not turn on can’t give anything. Have it mended first; nothing on it is lost by that.',
  },
  'power new-not': {
    verdict: 'no',
    sentence: 'The new phone does not turn on. It has to be exchanged before anything can be carried to it.',
  },
  'passcode customer-later': {
    verdict: 'limit',
    sentence: 'We start as soon as you can unlock the phone here. We never write a passcode down.',
  },
  'passcode nobody': {
    verdict: 'no',
    sentence: 'Without its passcode the phone stays closed, for us as for anyone. We don’t get round a lock.',
  },
  'password later': {
    verdict: 'limit',
    sentence: 'Messages to a new iOS phone, and some apps, wait until the account password is at hand; the rest can begin.',
  },
  'password no': {
    verdict: 'limit',
    sentence: 'What stands in the account can’t be reached, and some kinds can’t be carried. We carry what the phones give without it.',
  },
  'owner-lock old-locked-other': {
    verdict: 'no',
    sentence: 'The old phone is locked to somebody else’s account. Only that owner can release it.',
  },
  'owner-lock new-locked-other': {
    verdict: 'no',
    sentence: 'The new phone is locked to somebody else’s account. Its seller has to release it first.',
  },
  'run-by partly': {
    verdict: 'limit',
    sentence: 'There is a work area on the phone. It belongs to the employer or school: we name it, and don’t read it.',
  },
  'run-by whole': {
    verdict: 'no',
    sentence: 'The whole phone is run by an employer or school. They have to move it, or write to us that we may.',
  },
  'child parent-here': { verdict: 'limit', sentence: 'We go on while a parent is here: approvals on a child’s phone are theirs.' },
  'child parent-not-here': { verdict: 'no', sentence: 'A parent has to be here to approve what the phone asks.' },
  'lost yes': { verdict: 'no', sentence: 'A phone reported lost is not moved. Please have the report withdrawn first.' },
}

/** Whether the job can be taken as the answers stand. */
export function judgeIntake(answers: IntakeAnswers): IntakeResult {
  const because = intakeQuestions.flatMap(({ code }) => {
    const answer = answers[code]
    const meaning = answer === undefined ? undefined : meanings[`${code} ${answer}`]
    return meaning ? [{ code, answer: answer!, ...meaning }] : []
  })
  const verdict = because.some((b) => b.verdict === 'no') ? 'no' : because.length > 0 ? 'limit' : 'go'
  return { verdict, because, open: intakeQuestions.filter(({ code }) => answers[code] === undefined).map(({ code }) => code) }
}

export function isIntakeAnswer(code: string, answer: string): boolean {
  return intakeQuestions.some((q) => q.code === code && (q.answers as readonly string[]).includes(answer))
}
