<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { computed, ref, watch } from 'vue'
import type { CrossingView } from '#contracts/http/ready.ts'
import { api } from '../../composables/use-api.ts'
import CrossingTable from '../guide/CrossingTable.vue'
import type { PhoneChoice } from './phone-choice.ts'
import { common } from '../../words/common.ts'
import { crossTable as said } from '../../words/book-in.ts'

/** What crosses for this pair, said before anything is promised. */
const props = defineProps<{ old: PhoneChoice | null; new: PhoneChoice | null; wanted: readonly string[] }>()
const crossings = ref<readonly CrossingView[]>([])
const named = ({ maker, model, platform, version }: PhoneChoice) => ({ maker, model, platform, version })
const pair = computed(() => (props.old && props.new ? { old: named(props.old), new: named(props.new) } : null))
let asked = 0
watch(
  pair,
  async (now) => {
    const mine = ++asked
    if (!now) {
      crossings.value = []
      return
    }
    const { kinds } = await api(calls.guidePair, { body: now })
    if (mine === asked) crossings.value = kinds
  },
  { immediate: true },
)
</script>

<template>
  <aside class="border-l border-rule pl-6" aria-labelledby="crosses">
    <h2 id="crosses" class="mb-1 text-[0.95rem]">{{ common.whatCrosses }}</h2>
    <p v-if="!pair" class="text-soft">{{ said.nameBothPhones }}</p>
    <template v-else>
      <CrossingTable :crossings="crossings.filter((c) => wanted.includes(c.kind))" />
      <p class="mt-3 text-xs text-soft">{{ said.countedLater }}</p>
    </template>
  </aside>
</template>
