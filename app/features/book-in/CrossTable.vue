<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import StateMark from '../../components/base/StateMark.vue'
import { api } from '../../composables/use-api.ts'
import { reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import type { PhoneChoice } from './phone-choice.ts'

/** What crosses for this pair, said before anything is promised. */
interface Crossing {
  readonly kind: string
  readonly crosses: 'whole' | 'changed' | 'cannot'
  readonly rule: string | null
  readonly changes: readonly { code: string; loss: boolean }[]
}
const props = defineProps<{ old: PhoneChoice | null; new: PhoneChoice | null }>()
const crossings = ref<readonly Crossing[]>([])
const pair = computed(() => (props.old && props.new ? { old: named(props.old), new: named(props.new) } : null))
const named = ({ maker, model, platform }: PhoneChoice) => ({ maker, model, platform })
let asked = 0
watch(pair, async (now) => {
  const mine = ++asked
  if (!now) {
    crossings.value = []
    return
  }
  const { kinds } = await api<{ kinds: Crossing[] }>('pair', { body: now })
  if (mine === asked) crossings.value = kinds
}, { immediate: true })
const sorted = (changes: Crossing['changes']) => [...changes].sort((a, b) => Number(b.loss) - Number(a.loss))
</script>

<template>
  <aside class="border-l border-rule pl-6" aria-labelledby="crosses" aria-live="polite">
    <h2 id="crosses" class="mb-2 text-[0.95rem]">What crosses</h2>
    <p v-if="!pair" class="text-soft">Name both phones to see what comes over whole, what changes on the way, and what can’t cross.</p>
    <section v-for="c in crossings" v-else :key="c.kind">
      <h3 class="mb-1 flex items-center justify-between font-body text-sm font-semibold">
        {{ words.kinds[c.kind] }}
        <StateMark :tone="c.crosses === 'whole' ? 'good' : c.crosses === 'changed' ? 'note' : 'bad'">
          {{ c.crosses === 'whole' ? 'Crosses whole' : c.crosses === 'changed' ? 'Some change' : 'Can’t cross' }}
        </StateMark>
      </h3>
      <p v-if="c.rule" class="text-madder">{{ reason(c.rule) }}</p>
      <ul class="mt-2 space-y-1.5 text-soft">
        <li v-for="change in sorted(c.changes)" :key="change.code" class="flex gap-2">
          <span class="w-12 shrink-0 text-xs font-semibold" :class="change.loss ? 'text-ochre' : 'text-verdigris'">{{ change.loss ? 'loss' : 'kept' }}</span>{{ reason(change.code) }}
        </li>
      </ul>
      <p class="mt-3 text-xs text-soft">How many of this customer’s it concerns is counted after Count in, before anything is written.</p>
    </section>
  </aside>
</template>
