<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { computed, onMounted, ref, watch } from 'vue'
import type { CrossingView, GuideIndexView, GuidePhoneView } from '#contracts/http/ready.ts'
import SentenceBox from '../components/base/SentenceBox.vue'
import SmallButton from '../components/base/SmallButton.vue'
import { api } from '../composables/use-api.ts'
import CrossingTable from '../features/guide/CrossingTable.vue'
import GuideFor from '../features/guide/GuideFor.vue'
import ModelList from '../features/guide/ModelList.vue'
import AppShell from '../features/shell/AppShell.vue'
import { common } from '../words/common.ts'
import { guidePage as said } from '../words/guide.ts'

type Model = GuideIndexView['models'][number]
interface Picked extends Omit<Model, 'versions'> {
  readonly version: string
}
const index = ref<GuideIndexView | null>(null)
const wanted = ref('')
const picked = ref<Picked | null>(null)
const other = ref('')
const guide = ref<GuidePhoneView | null>(null)
const crossings = ref<CrossingView[]>([])
const direction = ref<'to' | 'from'>('to')
useHead({ title: said.tabTitle })
onMounted(async () => {
  index.value = await api(calls.guide)
  const [first] = index.value.models
  if (first) pick(first, first.versions[0] ?? '')
})
const { stringify } = JSON
function pick({ maker, model, platform }: Model, version: string) {
  picked.value = { maker, model, platform, version }
}
let asked = 0
watch(picked, async (phone) => {
  const mine = ++asked
  if (!phone) return
  const answer = await api(calls.guidePhone, { body: phone })
  if (mine === asked) guide.value = answer
})
watch([picked, other, direction], async ([phone, text, way]) => {
  if (!phone || !text) {
    crossings.value = []
    return
  }
  const that = JSON.parse(text) as Picked
  const pair = way === 'to' ? { old: phone, new: that } : { old: that, new: phone }
  crossings.value = (await api(calls.guidePair, { body: pair })).kinds
})
const found = computed(() => {
  const text = wanted.value.trim().toLowerCase()
  return (index.value?.models ?? []).filter(
    (m) => !text || [m.model, m.platform, m.maker].some((field) => field.toLowerCase().includes(text)),
  )
})
</script>

<template>
  <AppShell>
    <header class="border-b border-rule bg-panel px-6 py-3.5">
      <h1 class="text-xl">
        {{ common.guide }}
        <span class="ml-1 font-body text-sm font-normal text-soft">{{ said.lead }}</span>
      </h1>
    </header>
    <SentenceBox v-for="file in index?.refused ?? []" :key="file.file" tone="bad" class="mx-6 mt-4">
      {{ said.shopsGuide(file.file) }}
      <template v-for="(fault, i) in file.faults" :key="i">{{ said.where(i > 0, fault.place, fault.rule) }}</template>.
    </SentenceBox>
    <div class="grid grid-cols-[13rem_minmax(0,1fr)_18rem] gap-6 px-6 py-5">
      <ModelList v-model="wanted" :models="found" :picked="picked" :own="index?.own ?? []" @pick="pick" />
      <GuideFor v-if="guide && picked" :guide="guide" :phone="picked" :wanted="wanted" />
      <p v-else class="text-soft">{{ said.openingGuides }}</p>
      <aside v-if="picked && index" class="border-l border-rule pl-5" aria-labelledby="pair">
        <h2 id="pair" class="mb-2 text-[0.95rem]">{{ common.whatCrosses }}</h2>
        <div class="mb-2 flex gap-1.5" role="group" :aria-label="said.direction">
          <SmallButton v-for="way in ['to', 'from'] as const" :key="way" :pressed="direction === way" @click="direction = way">{{
            way === 'to' ? said.fromTo(picked.model) : said.toFrom(picked.model)
          }}</SmallButton>
        </div>
        <label
          ><span class="sr-only">{{ said.otherPhone }}</span>
          <select v-model="other" class="field">
            <option value="">{{ said.anotherPhone }}</option>
            <option
              v-for="m in index.models"
              :key="m.model"
              :value="stringify({ maker: m.maker, model: m.model, platform: m.platform, version: m.versions[0] ?? '' })"
            >
              {{ m.model }}
            </option>
          </select>
        </label>
        <CrossingTable v-if="crossings.length > 0" :crossings="crossings" class="mt-2" />
        <p v-else class="mt-2 text-soft">{{ said.chooseOtherPhone }}</p>
      </aside>
    </div>
  </AppShell>
</template>
