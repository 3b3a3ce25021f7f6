<script setup lang="ts">
import { computed, ref } from 'vue'
import type { PutBackView } from '#contracts/http/ready.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import StepList from './StepList.vue'
import { words } from '../../words/words.ts'
import { putBackList as said } from '../../words/ready.ts'

/** What was changed for the move, per phone: ticked from the phone when it is as it was, or waived by name. */
const props = defineProps<{ ticket: TicketView; busy: string }>()
const emit = defineEmits<{ put: [body: { side: 'old' | 'new'; code: string; how: 'ticked' | 'waived'; by?: string }] }>()
const sides = computed(() =>
  (['old', 'new'] as const).map((side) => ({ side, items: props.ticket.ready[side].putBack })).filter(({ items }) => items.length > 0),
)
const waiving = ref('')
const by = ref('')
const states: Record<PutBackView['state'], string> = {
  open: said.toPutBack,
  restored: said.asItWas,
  ticked: said.lookedAt,
  waived: words.needStates.waived!,
}
function waive(side: 'old' | 'new', code: string) {
  emit('put', { side, code, how: 'waived', by: by.value })
  waiving.value = ''
  by.value = ''
}
</script>

<template>
  <section
    v-for="{ side, items } in sides"
    :key="side"
    class="mb-3 border border-t-[3px] border-rule border-t-ink bg-sheet p-3"
    :aria-label="said.putBackOnPhone(side)"
  >
    <h3 class="mb-1.5 font-body font-semibold">
      <span class="font-head">{{ words.sides[side] }}</span> {{ said.settingsToPutBack(ticket[side].model) }}
    </h3>
    <ul class="space-y-1.5">
      <li v-for="item in items" :key="item.code" :data-put-back="item.code" :data-state="item.state">
        <details :open="item.state === 'open'">
          <summary class="flex cursor-pointer justify-between gap-2" :class="item.state === 'open' ? 'font-semibold' : 'text-soft'">
            <span>{{ item.title }}</span><span class="shrink-0 text-xs" :class="item.state === 'open' ? 'text-ochre' : 'text-verdigris'">{{
              states[item.state]
            }}</span>
          </summary>
          <div v-if="item.state === 'open'" class="mt-1 pl-1 text-[0.8rem]">
            <StepList :steps="item.steps" />
            <div class="mt-1.5 flex gap-3 text-xs">
              <LinkButton v-if="item.isTickable" @click="emit('put', { side, code: item.code, how: 'ticked' })">{{
                said.isAsItWas
              }}</LinkButton>
              <LinkButton :strong="false" @click="waiving = waiving === `${side} ${item.code}` ? '' : `${side} ${item.code}`">{{
                said.waiveMore
              }}</LinkButton>
            </div>
            <form v-if="waiving === `${side} ${item.code}`" class="mt-1.5 flex items-end gap-1.5" @submit.prevent="waive(side, item.code)">
              <label class="min-w-0 flex-1"
                ><span class="block text-xs text-soft">{{ said.customerLeaves }}</span
                ><input v-model="by" class="field" required maxlength="120" autocomplete="off"
              /></label>
              <AppButton type="submit" :disabled="!by.trim()" :busy="busy === 'put-back'">{{ said.waive }}</AppButton>
            </form>
          </div>
        </details>
      </li>
    </ul>
  </section>
</template>
