import { routes } from '#contracts/http/routes.ts'
import { exchangeNew, handOver, note, readCourse, rest, resume, told } from '../../desk/course.ts'
import { callOff } from '../../desk/hand-back/act.ts'
import { readBench, seenPhones } from '../../endpoints/ports.ts'
import { serve } from '../door/door.ts'

/** What may happen to a ticket at any stage. */
export const course = [
  serve(routes.rest, ({ services, actor, params, body }) => rest(services, params.number, { words: body.words, actor })),
  serve(routes.resume, ({ services, actor, params, body }) => resume(services, params.number, { words: body.words, actor })),
  serve(routes.handOver, ({ services, actor, params, body }) => handOver(services, params.number, { ...body, actor })),
  serve(routes.exchangeNew, async ({ services, actor, params, body }) =>
    exchangeNew(services, params.number, { ...body, actor, seen: seenPhones(await readBench(services)) }),
  ),
  serve(routes.note, ({ services, actor, params, body }) => note(services, params.number, { words: body.words, actor })),
  serve(routes.told, ({ services, actor, params, body }) => told(services, params.number, { code: body.code, actor })),
  serve(routes.course, ({ services, params }) => readCourse(services, params.number)),
  serve(routes.callOff, ({ services, actor, params, body }) => callOff(services, params.number, { body, actor })),
]
