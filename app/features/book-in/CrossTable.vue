<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { computed, ref, watch } from 'vue'
import type { CrossingView } from '#contracts/http/ready.ts'
import { api } from '../../composables/use-api.ts'
import CrossingTable from '../guide/CrossingTable.vue'
import type { PhoneChoice } from './phone-choice.ts'

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
    const { kinds } = await api(routes.guidePair, { body: now })
    if (mine === asked) crossings.value = kinds
  },
  { immediate: true },
)
</script>

<template>
  <aside class="border-l border-rule pl-6" aria-labelledby="crosses">
    <h2 id="crosses" class="mb-1 text-[0.95rem]">What crosses</h2>
    <p v-if="!pair" class="text-soft">Name both phones to see what comes over whole, what changes on the way, and what can’t cross.</p>
    <template v-else>
      <CrossingTable :crossings="crossings.filter((c) => wanted.includes(c.kind))" />
      <p class="mt-3 text-xs text-soft">How many of this customer’s it concerns is counted after Count in, before anything is written.</p>
    </template>
  </aside>
</template>
