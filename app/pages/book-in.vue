<script setup lang="ts">
import type { CopyView } from '#contracts/http/lockers.ts'
import { calls } from '#contracts/http/calls.ts'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import AppButton from '../components/base/AppButton.vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../composables/use-api.ts'
import { useEvents } from '../composables/use-events.ts'
import { judgeIntake, type IntakeAnswers } from '#core/phones/intake.ts'
import { faces } from '#core/kinds/faces.ts'
import { packs } from '../kinds/registry.ts'
import { localTime } from '../features/book-in/local-time.ts'
import IntakeList from '../features/book-in/IntakeList.vue'
import CrossTable from '../features/book-in/CrossTable.vue'
import PhonePick from '../features/book-in/PhonePick.vue'
import {
  filesHome,
  keepPlaces,
  pickOfCopy,
  pickOfPort,
  type ListedPort,
  type Model,
  type PhoneChoice,
} from '../features/book-in/phone-choice.ts'
import AppShell from '../features/shell/AppShell.vue'
import { useTickets } from '../stores/tickets.ts'
import { words } from '../words/words.ts'
import { common } from '../words/common.ts'
import { bookInPage as said } from '../words/book-in.ts'

const route = useRoute()
const router = useRouter()
const store = useTickets()
const models = ref<Model[]>([])
const copies = ref<readonly CopyView[]>([])
const customer = reactive({ name: '', phone: '', note: '' })
const phones = reactive<{ old: PhoneChoice | null; new: PhoneChoice | null }>({ old: null, new: null })
const promised = ref(localTime(Math.ceil(Date.now() / 900_000) * 900_000 + 3_600_000))
const waits = ref(true)
const isStraight = ref(false)
const everyday = faces.filter(({ group }) => !group).map(({ code }) => code)
const files = packs.map(({ code }) => code).filter((code) => faces.some((face) => face.code === code && face.group === 'files'))
// films were on everybody's list while they stood among the photos: who does not want them says so
const wanted = ref<string[]>([...everyday, ...files.filter((code) => faces.some((face) => face.code === code && face.askedWith))])
const moreWanted = computed(() => files.filter((code) => wanted.value.includes(code)))
const intake = ref<IntakeAnswers>({})
const verdict = computed(() => judgeIntake(intake.value).verdict)
const sentence = ref('')
const isBusy = ref(false)
useHead({ title: said.tabTitle })

onMounted(async () => {
  models.value = (await api(calls.guide)).models
  await store.loadToday()
  const port = store.today?.ports.find((p) => String(p.port) === route.query.port)
  // what somebody has filled in by now is theirs
  if (port?.phone) phones.old ??= pickOfPort(port)
  const asked = String(route.query.copy ?? '')
  copies.value = (await api(calls.lockers, { body: { find: asked, limit: 100 } })).copies
  const copy = copies.value.find(({ id }) => String(id) === asked)
  if (copy) phones.old ??= pickOfCopy(copy)
  if (route.query.home === '1') phones.new ??= filesHome()
})
useEvents(
  (event) => event.what === 'bench',
  () => store.loadToday(),
)

/** Ports whose phone no open ticket names. */
const freePorts = computed(() => (store.today?.ports ?? []).filter((p) => p.phone && !p.ticket))
const listed = ref<ListedPort[]>([])
watch(freePorts, (now) => (listed.value = keepPlaces(listed.value, now)), { immediate: true })
const missing = computed(() => {
  const out = []
  if (!customer.name.trim()) out.push(said.needsName)
  if (!phones.old) out.push(said.needsOld)
  if (!phones.new) out.push(said.needsNew)
  if (!promised.value) out.push(said.needsPromise)
  if (wanted.value.length === 0) out.push(said.needsKind)
  return out
})
const isSame = computed(() => phones.old?.serial != null && phones.old.serial === phones.new?.serial)
watch(isSame, (same) => {
  sentence.value = same ? said.samePhone : ''
})

async function book() {
  if (missing.value.length > 0 || isSame.value || verdict.value === 'no') return
  isBusy.value = true
  sentence.value = ''
  try {
    const { number } = await api(calls.bookIn, {
      body: {
        customer,
        old: phones.old!,
        new: phones.new!,
        kinds: wanted.value,
        intake: intake.value,
        promisedAt: new Date(promised.value).toISOString(),
        waitsInShop: waits.value,
      },
    })
    // within what was just foretold it needs nobody
    if (isStraight.value) await api(calls.straight, { params: { number }, body: { on: true } }).catch(() => undefined)
    await router.push(`/tickets/${number}`)
  } catch (error) {
    sentence.value = sentenceOf(error)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <AppShell>
    <header class="border-b border-rule bg-panel px-6 py-3.5">
      <h1 class="text-xl">{{ common.bookIn }}</h1>
    </header>
    <form class="grid max-w-6xl grid-cols-[1fr_20rem] gap-8 px-6 py-5" @submit.prevent="book">
      <div class="space-y-6">
        <fieldset>
          <legend class="mb-2 font-head text-[0.95rem] font-semibold">{{ common.customer }}</legend>
          <div class="grid grid-cols-[2fr_1fr] gap-3">
            <label
              ><span class="mb-1 block text-xs text-soft">{{ common.name }}</span
              ><input v-model="customer.name" class="field" autocomplete="off" required maxlength="120"
            /></label>
            <label
              ><span class="mb-1 block text-xs text-soft">{{ said.telephoneToCall }}</span
              ><input v-model="customer.phone" class="field" type="tel" autocomplete="off" maxlength="40"
            /></label>
          </div>
        </fieldset>
        <div class="grid grid-cols-2 gap-6">
          <PhonePick v-model="phones.old" side="old" :ports="listed" :models="models" :copies="copies" />
          <PhonePick v-model="phones.new" side="new" :ports="listed" :models="models" />
        </div>
        <fieldset>
          <legend class="mb-2 font-head text-[0.95rem] font-semibold">{{ said.whatIsWanted }}</legend>
          <div class="flex flex-wrap gap-x-5 gap-y-1.5">
            <label v-for="kind in everyday" :key="kind" class="flex items-center gap-1.5"
              ><input v-model="wanted" type="checkbox" :value="kind" class="size-4 accent-ink" /> {{ words.kinds[kind] }}</label
            >
          </div>
          <details class="mt-2" data-testid="more-kinds">
            <summary class="cursor-pointer text-soft">{{ said.moreKinds(moreWanted.map((kind) => words.many[kind]).join(', ')) }}</summary>
            <div class="mt-1.5 flex flex-wrap gap-x-5 gap-y-1.5">
              <label v-for="kind in files" :key="kind" class="flex items-center gap-1.5"
                ><input v-model="wanted" type="checkbox" :value="kind" class="size-4 accent-ink" /> {{ words.kinds[kind] }}</label
              >
            </div>
          </details>
        </fieldset>
        <IntakeList v-model="intake" />
        <fieldset>
          <legend class="mb-2 font-head text-[0.95rem] font-semibold">{{ common.promise }}</legend>
          <div class="flex items-end gap-5">
            <label
              ><span class="mb-1 block text-xs text-soft">{{ common.readyBy }}</span
              ><input v-model="promised" class="field" type="datetime-local" required
            /></label>
            <label class="flex items-center gap-2 pb-2"
              ><input v-model="waits" type="checkbox" class="size-4 accent-ink" /> {{ common.customerWaitsInShop }}</label
            >
          </div>
        </fieldset>
        <label class="flex items-start gap-2"
          ><input v-model="isStraight" type="checkbox" class="mt-0.5 size-4 accent-ink" /><span
            >{{ said.straightThrough }}<span class="block text-xs text-soft">{{ said.withinForetold }}</span></span
          ></label
        >
        <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
        <div class="flex items-center gap-4">
          <AppButton look="accent" type="submit" :busy="isBusy" :disabled="missing.length > 0 || isSame || verdict === 'no'">{{
            said.bookTicketIn
          }}</AppButton>
          <span v-if="verdict === 'no'" class="font-semibold text-madder">{{ said.dontTake }}</span>
          <span v-else-if="missing.length > 0" class="text-soft">{{ said.stillNeeded(missing.join(', ')) }}</span>
        </div>
      </div>
      <CrossTable :old="phones.old" :new="phones.new" :wanted="wanted" />
    </form>
  </AppShell>
</template>
