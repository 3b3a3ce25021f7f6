<script setup lang="ts">
import type { NotTakenView } from '#contracts/http/uploads.ts'
import { notTakenList as said } from '../../words/book-in.ts'
import { bytes, number } from '../../words/say.ts'

/** Of files that were brought, those that were not taken, each with its size and why. A name that is not shown is a bar. */
defineProps<{ total: number; rows: NotTakenView['rows'] }>()
</script>

<template>
  <details v-if="total > 0" class="text-xs" data-testid="not-taken">
    <summary class="cursor-pointer text-ochre">{{ said.notTaken(number(total)) }}</summary>
    <ul class="mt-1 max-h-40 space-y-0.5 overflow-auto" tabindex="0" :aria-label="said.list">
      <li v-for="(row, i) in rows" :key="i" class="break-words">
        <slot v-if="row.path === null" name="masked" :seed="i" /><template v-else>{{ row.path }}</template
        ><span class="text-soft">, {{ bytes(row.sizeBytes) }}: {{ said.why(row.why, row.n) }}</span>
      </li>
    </ul>
    <p v-if="total > rows.length" class="mt-1 text-soft">{{ said.further(number(total - rows.length)) }}</p>
    <slot />
  </details>
</template>
