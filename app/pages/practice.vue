<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { computed, onMounted, ref } from 'vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { api, ApiFailure, sentenceOf } from '../composables/use-api.ts'
import { useEvents } from '../composables/use-events.ts'
import PracticePhone from '../features/practice/PracticePhone.vue'
import type { FaultPoint, FingerAct, HandBody, HandPhone } from '../features/practice/hand.ts'
import { useStations } from '../composables/use-stations.ts'
import { useSession } from '../stores/session.ts'
import AppShell from '../features/shell/AppShell.vue'
import { handRefusal, practicePage as said } from '../words/practice.ts'

const { stations: all, nameOf } = useStations()
const stations = computed(() => all.value.filter((station) => station.hasPractice))
type Station = (typeof all.value)[number]
/** Ports are numbered as the shop numbers them; the hand of a bench knows its own eight. */
const phones = ref<{ phone: HandPhone; station: Station }[]>([])
const points = ref<FaultPoint[]>([])
const acts = ref<FingerAct[]>([])
const freePorts = ({ code, firstPort }: Station) =>
  Array.from({ length: 8 }, (_, i) => firstPort + i).filter(
    (port) => !phones.value.some(({ station, phone }) => station.code === code && phone.port === port),
  )
const sentence = ref('')
useHead({ title: said.tabTitle })
const lookAt = <T,>(path: string, station?: string) =>
  api(calls.lookAtPractice, { params: { path }, query: station === undefined ? {} : { station } }) as Promise<T>
async function look() {
  try {
    const ofEach = await Promise.all(
      stations.value.map(async (station) =>
        (await lookAt<{ phones: HandPhone[] }>('phones', station.code)).phones.map((phone) => ({
          station,
          phone: { ...phone, port: phone.port && station.firstPort - 1 + phone.port },
        })),
      ),
    )
    phones.value = ofEach.flat()
    sentence.value = ''
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
}
onMounted(async () => {
  // which benches there are comes with the session
  await useSession().load()
  await look()
  acts.value = (await lookAt<{ acts: FingerAct[] }>('acts')).acts
  points.value = (await lookAt<{ points: FaultPoint[] }>('fault-points')).points
})
useEvents((event) => event.what === 'bench' || event.what === 'ticket', look, { evenTold: true })
async function hand({ phone, station }: { phone: HandPhone; station: Station }, act: string, body: HandBody = {}, isTaken = false) {
  try {
    const to = { params: { path: `phones/${phone.serial}/${act}` }, query: { station: station.code } }
    const port = typeof body.port === 'number' ? { port: body.port - station.firstPort + 1 } : {}
    await (isTaken ? api(calls.takeHandAway, to) : api(calls.moveHand, { ...to, body: { ...body, ...port } }))
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
        v-for="one in phones"
        :key="`${one.station.code} ${one.phone.serial}`"
        :phone="one.phone"
        :points="points"
        :acts="acts"
        :free-ports="freePorts(one.station)"
        :bench="stations.length > 1 ? nameOf(one.station.code) : ''"
        @hand="(act, body, method) => hand(one, act, body, method)"
      />
    </div>
  </AppShell>
</template>
