import { writeFileSync } from 'node:fs'
import { openApi } from '#contracts/http/openapi.ts'

/** Draws docs/openapi.json from the contracts: run it when one changed. */
writeFileSync('docs/openapi.json', JSON.stringify(openApi()) + '\n')
