<script setup lang="ts">
import type { CrossingView } from '#contracts/http/ready.ts'
import StateMark from '../../components/base/StateMark.vue'
import { limitLine, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { crossingTable as said } from '../../words/guide.ts'

/** For a pair: what crosses whole, what is changed and how, what can't cross and why. */
defineProps<{ crossings: readonly CrossingView[] }>()
const sorted = (changes: CrossingView['changes']) => [...changes].sort((a, b) => Number(b.loss) - Number(a.loss))
</script>

<template>
  <ul class="divide-y divide-rule">
    <li v-for="c in crossings" :key="c.kind" class="py-2" :data-crossing="c.kind" :data-state="c.crosses">
      <h3 class="flex items-center justify-between gap-2 font-body text-sm font-semibold">
        <span
          >{{ words.kinds[c.kind]
          }}<span v-if="!c.isCarried && c.crosses !== 'cannot'" class="ml-1.5 text-xs font-normal text-soft">{{ said.byHand }}</span></span
        >
        <StateMark :tone="c.crosses === 'whole' ? 'good' : c.crosses === 'changed' ? 'note' : 'bad'">{{
          c.crosses === 'whole' ? said.crossesWhole : c.crosses === 'changed' ? said.someChange : common.cantCross
        }}</StateMark>
      </h3>
      <p v-if="c.rule" class="text-soft">{{ reason(c.rule) }}</p>
      <ul v-if="c.changes.length > 0 || Object.keys(c.limits).length > 0" class="mt-1 space-y-0.5 text-[0.8rem] text-soft">
        <li v-for="(n, name) in c.limits" :key="name" class="flex gap-2">
          <span class="w-9 shrink-0 text-xs font-semibold text-ochre">{{ said.limit }}</span>{{ limitLine(String(name), n) }}
        </li>
        <li v-for="change in sorted(c.changes)" :key="change.code" class="flex gap-2">
          <span class="w-9 shrink-0 text-xs font-semibold" :class="change.loss ? 'text-ochre' : 'text-verdigris'">{{
            change.loss ? said.loss : said.kept
          }}</span>{{ reason(change.code) }}
        </li>
      </ul>
    </li>
  </ul>
</template>
