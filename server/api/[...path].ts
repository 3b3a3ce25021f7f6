import { apps } from './answers/apps.ts'
import { bench } from './answers/bench.ts'
import { course } from './answers/course.ts'
import { items } from './answers/items.ts'
import { line } from './answers/line.ts'
import { practice } from './answers/practice.ts'
import { session } from './answers/session.ts'
import { door } from './door/door.ts'

/** Everything below `/api` comes through here. */
export default door([...session, ...bench, ...line, ...course, ...items, ...apps, ...practice])
