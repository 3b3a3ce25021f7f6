<script setup lang="ts">
import { number, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import type { moreThanExpected, ReasonSection } from '../../words/sheet-lines.ts'
import { sheetReasons } from '../../words/sheet.ts'
import { useSaid } from '../ticket/side-names.ts'

const said = useSaid(sheetReasons)

/** What changed, what stayed and what else is there, each line with how many items it is. */
defineProps<{ parts: readonly ReasonSection[]; more: ReturnType<typeof moreThanExpected>; isSeveral: boolean }>()
</script>

<template>
  <template v-for="part in parts" :key="part.head">
    <h2 class="mb-1 break-after-avoid text-sm not-first:mt-3 print:not-first:mt-1.5">{{ part.head }}</h2>
    <template v-for="g in part.groups" :key="g.kind">
      <h3 v-if="isSeveral" class="mt-1 break-after-avoid font-body text-xs font-semibold text-soft print:mt-0.5 print:text-[0.66rem]">
        {{ words.kinds[g.kind] }}<template v-if="g.sums">: {{ g.sums }}</template>
      </h3>
      <ul class="space-y-0.5 print:space-y-0">
        <li v-for="r in g.reasons" :key="`${r.fate}${r.code}`" class="flex break-inside-avoid gap-2">
          <strong class="min-w-9 shrink-0 text-right">{{ number(r.items) }}</strong><span
            ><template v-if="part.saysFate">{{ words.filters[r.fate] }}: </template>{{ reason(r.code) }}</span
          >
        </li>
      </ul>
    </template>
    <p v-if="part.groups.length === 0" class="text-soft">{{ part.none }}</p>
  </template>
  <template v-if="more.length > 0">
    <h2 class="mt-3 mb-1 break-after-avoid text-sm print:mt-1.5">{{ said.whatElse }}</h2>
    <ul class="space-y-0.5 print:space-y-0" data-testid="more">
      <li v-for="m in more" :key="`${m.kind} ${m.filter}`">
        <strong>{{ number(m.n) }}</strong> {{ m.n === 1 ? words.one[m.kind] : words.many[m.kind] }},
        {{ words.filters[m.filter]!.toLowerCase() }}:
        {{ words.meanings[m.filter] }}
      </li>
    </ul>
  </template>
</template>
