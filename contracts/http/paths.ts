interface Address {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE'
  /** Below the server’s root; `{name}` for a parameter, `{name*}` for all that follows. */
  readonly path: `/api/${string}`
  /** A body that is no JSON. */
  readonly takes?: 'bytes'
}

const ticket = '/api/tickets/{number}' as const
const kind = '/api/tickets/{number}/kinds/{kind}' as const

/** Where each call of the HTTP interface is asked, for who must not load every contract with it. */
export const addresses = {
  health: { method: 'GET', path: '/api/health' },
  openApi: { method: 'GET', path: '/api/openapi.json' },
  signIn: { method: 'POST', path: '/api/session' },
  whoAmI: { method: 'GET', path: '/api/session' },
  firstStart: { method: 'POST', path: '/api/first-start' },
  isNew: { method: 'GET', path: '/api/first-start' },
  settings: { method: 'GET', path: '/api/shop' },
  setShop: { method: 'PUT', path: '/api/shop' },
  hire: { method: 'POST', path: '/api/staff' },
  changeStaff: { method: 'PUT', path: '/api/staff/{id}' },
  namePort: { method: 'PUT', path: '/api/bench/{port}/name' },
  setCounterpart: { method: 'PUT', path: '/api/counterparts' },
  past: { method: 'POST', path: '/api/past' },
  lockers: { method: 'POST', path: '/api/lockers/find' },
  lookInto: { method: 'POST', path: '/api/lockers/{copy}/look' },
  closeLook: { method: 'POST', path: `${ticket}/close-look` },
  keepCopy: { method: 'PUT', path: '/api/lockers/{copy}' },
  closeCopy: { method: 'POST', path: '/api/lockers/{copy}/close' },
  destroyCopy: { method: 'POST', path: '/api/lockers/{copy}/destroy' },
  sessions: { method: 'GET', path: '/api/sessions' },
  endSession: { method: 'DELETE', path: '/api/sessions/{id}' },
  signOut: { method: 'DELETE', path: '/api/session' },
  staff: { method: 'GET', path: '/api/staff' },
  events: { method: 'GET', path: '/api/events' },
  today: { method: 'GET', path: '/api/today' },
  markPort: { method: 'POST', path: '/api/bench/{port}/mark' },
  guide: { method: 'GET', path: '/api/guide' },
  guidePhone: { method: 'POST', path: '/api/guide/phone' },
  guidePair: { method: 'POST', path: '/api/guide/pair' },
  takeUpload: { method: 'POST', path: '/api/uploads', takes: 'bytes' },
  beginUpload: { method: 'POST', path: '/api/uploads/begin' },
  takePiece: { method: 'PUT', path: '/api/uploads/{upload}/files/{no}', takes: 'bytes' },
  sortUpload: { method: 'POST', path: '/api/uploads/{upload}/sort' },
  upload: { method: 'GET', path: '/api/uploads/{upload}' },
  bookIn: { method: 'POST', path: '/api/tickets' },
  ticket: { method: 'GET', path: ticket },
  ledger: { method: 'GET', path: `${ticket}/ledger` },
  booking: { method: 'GET', path: `${ticket}/booking` },
  edit: { method: 'PUT', path: ticket },
  straight: { method: 'POST', path: `${ticket}/straight` },
  changeKinds: { method: 'POST', path: `${ticket}/kinds` },
  setRoles: { method: 'POST', path: `${ticket}/roles` },
  setNeed: { method: 'POST', path: `${ticket}/needs` },
  putBack: { method: 'POST', path: `${ticket}/put-back` },
  countIn: { method: 'POST', path: `${ticket}/count-in` },
  choose: { method: 'POST', path: `${kind}/choose` },
  putFirst: { method: 'POST', path: `${ticket}/first` },
  takeWayOut: { method: 'POST', path: `${ticket}/way-out` },
  decide: { method: 'POST', path: `${kind}/joinings` },
  undoJoinings: { method: 'POST', path: `${kind}/undo-joinings` },
  carry: { method: 'POST', path: `${ticket}/carry` },
  pause: { method: 'POST', path: `${ticket}/pause` },
  resumeRun: { method: 'POST', path: `${ticket}/resume-run` },
  stop: { method: 'POST', path: `${ticket}/stop` },
  checkOff: { method: 'POST', path: `${ticket}/check-off` },
  again: { method: 'POST', path: `${kind}/again` },
  accept: { method: 'POST', path: `${kind}/accept` },
  takeBackAccept: { method: 'DELETE', path: `${kind}/accept` },
  takeAway: { method: 'POST', path: `${kind}/take-away` },
  printed: { method: 'POST', path: `${ticket}/printed` },
  sign: { method: 'POST', path: `${ticket}/sign` },
  sheet: { method: 'GET', path: `${ticket}/sheet` },
  erase: { method: 'POST', path: `${ticket}/erase` },
  rest: { method: 'POST', path: `${ticket}/rest` },
  resume: { method: 'POST', path: `${ticket}/resume` },
  handOver: { method: 'POST', path: `${ticket}/hand-over` },
  exchangeNew: { method: 'POST', path: `${ticket}/exchange-new` },
  note: { method: 'POST', path: `${ticket}/notes` },
  told: { method: 'POST', path: `${ticket}/told` },
  course: { method: 'GET', path: `${ticket}/course` },
  callOff: { method: 'POST', path: `${ticket}/call-off` },
  entries: { method: 'POST', path: `${ticket}/entries` },
  countEntries: { method: 'POST', path: `${ticket}/entries-count` },
  groups: { method: 'POST', path: `${ticket}/groups` },
  months: { method: 'POST', path: `${ticket}/months` },
  item: { method: 'POST', path: `${ticket}/item` },
  joinings: { method: 'POST', path: `${ticket}/joinings` },
  joining: { method: 'POST', path: `${ticket}/joining` },
  thumbnail: { method: 'POST', path: `${ticket}/thumbnail` },
  file: { method: 'GET', path: `${ticket}/files/{kind}/{format}` },
  takeHome: { method: 'GET', path: `${ticket}/take-home` },
  lockTakeHome: { method: 'POST', path: `${ticket}/take-home/password` },
  notTaken: { method: 'GET', path: `${ticket}/not-taken` },
  show: { method: 'POST', path: `${ticket}/show` },
  hide: { method: 'DELETE', path: `${ticket}/show` },
  apps: { method: 'GET', path: `${ticket}/apps` },
  candidates: { method: 'POST', path: `${ticket}/apps/candidates` },
  chooseCounterpart: { method: 'POST', path: `${ticket}/apps/counterpart` },
  markMoved: { method: 'POST', path: `${ticket}/apps/moved` },
  installList: { method: 'GET', path: `${ticket}/apps/install-list` },
  installPage: { method: 'GET', path: '/api/lists/{code}' },
  lookAtPractice: { method: 'GET', path: '/api/practice/{path*}' },
  moveHand: { method: 'POST', path: '/api/practice/{path*}' },
  takeHandAway: { method: 'DELETE', path: '/api/practice/{path*}' },
} as const satisfies Record<string, Address>

/** The path with its parameters in it. @throws Error when one is missing */
export function pathOf(path: string, params: Readonly<Record<string, unknown>>): string {
  return path.replace(/\{(\w+)(\*?)\}/g, (_, name: string, isRest: string) => {
    const value = params[name]
    if (value === undefined || value === '') throw new Error(`${path} lacks ${name}`)
    return isRest ? String(value).split('/').map(encodeURIComponent).join('/') : encodeURIComponent(String(value))
  })
}
