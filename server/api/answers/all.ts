import { apps } from './apps.ts'
import { bench } from './bench.ts'
import { course } from './course.ts'
import { items } from './items.ts'
import { line } from './line.ts'
import { lockers } from './lockers.ts'
import { takeHome } from './take-home.ts'
import { practice } from './practice.ts'
import { session } from './session.ts'
import { shop } from './shop.ts'
import { door } from '../door/door.ts'

/** Everything below `/api` comes through here. */
export default door([...session, ...shop, ...bench, ...line, ...course, ...items, ...apps, ...lockers, ...takeHome, ...practice])
