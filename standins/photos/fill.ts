import type { OwnRecord } from '../phones/store.ts'
import { photosOf, type PhotosRequest } from './demo.ts'
import { photoWays } from './listing.ts'

/** Photos as a phone's own earlier contents, with the files that belong to them. */
export function* photosOnPhone(dialect: keyof typeof photoWays, request: PhotosRequest): Generator<OwnRecord> {
  for (const { stored, storage, damage, recipes } of photosOf(request, photoWays[dialect]))
    yield { stored, storage, damage, attached: recipes }
}
