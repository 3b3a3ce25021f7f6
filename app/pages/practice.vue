<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { computed, onMounted, ref } from 'vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { api, ApiFailure, sentenceOf } from '../composables/use-api.ts'
import { useEvents } from '../composables/use-events.ts'
import PracticePhone from '../features/practice/PracticePhone.vue'
import type { FaultPoint, FingerAct, HandPhone } from '../features/practice/hand.ts'
import AppShell from '../features/shell/AppShell.vue'
import { handRefusal, practicePage as said } from '../words/practice.ts'

const phones = ref<HandPhone[]>([])
const points = ref<FaultPoint[]>([])
const acts = ref<FingerAct[]>([])
const freePorts = computed(() => [1, 2, 3, 4, 5, 6, 7, 8].filter((port) => !phones.value.some((phone) => phone.port === port)))
const sentence = ref('')
useHead({ title: said.tabTitle })
const lookAt = <T,>(path: string) => api(routes.lookAtPractice, { params: { path } }) as Promise<T>
async function look() {
  try {
    phones.value = (await lookAt<{ phones: HandPhone[] }>('phones')).phones
    sentence.value = ''
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
}
onMounted(async () => {
  await look()
  acts.value = (await lookAt<{ acts: FingerAct[] }>('acts')).acts
  points.value = (await lookAt<{ points: FaultPoint[] }>('fault-points')).points
})
useEvents((event) => event.what === 'bench' || event.what === 'ticket', look, { evenTold: true })
async function hand(serial: string, act: string, body: object = {}, isTaken = false) {
  try {
    const params = { path: `phones/${serial}/${act}` }
    await (isTaken ? api(routes.takeHandAway, { params }) : api(routes.moveHand, { params, body: body as Record<string, unknown> }))
  } catch (error) {
    sentence.value =
      error instanceof ApiFailure && error.details.hand ? said.notNow(handRefusal(String(error.details.hand))) : sentenceOf(error)
  }
  await look()
}
</script>

<template>
  <AppShell>
    <header class="border-b border-rule bg-panel px-6 py-3.5">
      <h1 class="text-xl">
        {{ said.practicePhones }}
        <span class="ml-1 font-body text-sm font-normal text-soft">{{ said.lead }}</span>
      </h1>
    </header>
    <SentenceBox v-if="sentence" tone="bad" class="mx-6 mt-4">{{ sentence }}</SentenceBox>
    <div class="grid grid-cols-[repeat(auto-fill,minmax(21rem,1fr))] gap-5 px-6 py-5">
      <PracticePhone
        v-for="phone in phones"
        :key="phone.serial"
        :phone="phone"
        :points="points"
        :acts="acts"
        :free-ports="freePorts"
        @hand="(act, body, method) => hand(phone.serial, act, body, method)"
      />
    </div>
  </AppShell>
</template>
