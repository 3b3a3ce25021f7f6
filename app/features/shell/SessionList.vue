<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { SessionView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../../composables/use-api.ts'
import { useSession } from '../../stores/session.ts'
import { clock } from '../../words/say.ts'
import { idleChoices, idleWords } from '../../words/settings.ts'
import { common } from '../../words/common.ts'
import { sessionList as said } from '../../words/shell.ts'

/** Where one is signed in; a browser left open elsewhere can be signed out from here. */
const props = defineProps<{ open: boolean }>()
defineEmits<{ close: []; leave: [] }>()
const store = useSession()
const zone = computed(() => store.session?.shop.zone ?? 'UTC')
const sessions = ref<SessionView[]>([])
const sentence = ref('')
const busy = ref(0)

const say = (error: unknown) => (sentence.value = sentenceOf(error))
async function look() {
  sentence.value = ''
  await api(calls.sessions).then((answer) => (sessions.value = answer.sessions), say)
}
async function end(id: number) {
  busy.value = id
  await api(calls.endSession, { params: { id } }).catch(say)
  await look()
  busy.value = 0
}
const idleMinutes = computed(() => store.session?.shop.idleMinutes ?? 240)
async function setIdle(minutes: number) {
  sentence.value = ''
  await api(calls.setShop, { body: { idleMinutes: minutes } }).then(() => store.keepShop({ idleMinutes: minutes }), say)
}
watch(
  () => props.open,
  (isOpen) => isOpen && void look(),
)
</script>

<template>
  <AppDialog :open="open" :title="said.isSignedIn(store.session?.name ?? '')" @close="$emit('close')">
    <SentenceBox v-if="sentence" tone="bad" class="mb-3">{{ sentence }}</SentenceBox>
    <ul data-testid="sessions">
      <li v-for="session in sessions" :key="session.id" class="flex items-center justify-between border-b border-rule py-2 last:border-0">
        <span
          ><strong>{{ session.isThis ? said.inThisBrowser : said.inAnotherBrowser }}</strong>
          <span class="block text-xs text-soft">{{
            said.sinceLastUsed(clock(session.since, zone), clock(session.lastUsed, zone))
          }}</span></span
        >
        <AppButton v-if="session.isThis" look="quiet" @click="$emit('leave')">{{ common.signOut }}</AppButton>
        <AppButton v-else look="quiet" :busy="busy === session.id" @click="end(session.id)">{{ said.signItOut }}</AppButton>
      </li>
    </ul>
    <label class="mt-3 flex items-center justify-between gap-3 text-sm">
      <span>{{ common.signBrowserOut }}</span>
      <select class="field w-32" :value="idleMinutes" @change="setIdle(Number(($event.target as HTMLSelectElement).value))">
        <option v-for="minutes in idleChoices(idleMinutes)" :key="minutes" :value="minutes">{{ idleWords(minutes) }}</option>
      </select>
    </label>
    <p class="mt-1 text-xs text-soft">{{ said.thisHoldsForEverybody }}</p>
    <AppButton class="mt-4" @click="$emit('close')">{{ common.close }}</AppButton>
  </AppDialog>
</template>
