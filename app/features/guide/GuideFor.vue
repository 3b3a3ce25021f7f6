<script setup lang="ts">
import { computed, ref } from 'vue'
import type { GuidePhoneView } from '#contracts/http/ready.ts'
import { limitLine, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import DataTable from '../../components/base/DataTable.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import StepList from '../ready/StepList.vue'
import { common } from '../../words/common.ts'
import { guideFor as said } from '../../words/guide.ts'

/** Everything known of one phone: needs with their steps, causes of silence, and what each kind can do there. */
const props = defineProps<{ guide: GuidePhoneView; phone: { model: string; platform: string; version: string }; wanted: string }>()
const side = ref<'old' | 'new'>('old')
const matches = (text: string) => {
  const wanted = props.wanted.trim().toLowerCase()
  return (
    wanted === '' ||
    props.phone.model.toLowerCase().includes(wanted) ||
    props.phone.platform.includes(wanted) ||
    text.toLowerCase().includes(wanted)
  )
}
const needs = computed(() =>
  props.guide.needs.filter(
    (need) =>
      (need.side === 'both' || need.side === side.value) &&
      matches([need.title, need.why ?? '', ...need.steps.map((s) => s.say)].join(' ')),
  ),
)
const forKinds = (kinds: readonly string[]) => (kinds.length === 6 ? said.everyKind : kinds.map((kind) => words.many[kind]).join(', '))
</script>

<template>
  <article class="min-w-0">
    <h2 class="mb-1 text-lg">
      {{ phone.model }}
      <span class="font-body text-sm font-normal text-soft">{{ words.platforms[phone.platform] }} {{ phone.version }}</span>
    </h2>
    <DataTable
      class="mb-4 text-[0.8rem]"
      :label="common.kinds"
      :rows="guide.kinds"
      :key-of="(k) => k.kind"
      :columns="[
        { key: 'kind', head: common.kind, names: true },
        { key: 'gives', head: said.gives },
        { key: 'takes', head: said.takes },
        { key: 'limits', head: said.limitsAndForcedChanges, class: 'text-soft' },
      ]"
    >
      <template #kind="{ row: k }"
        ><strong>{{ words.kinds[k.kind] }}</strong></template
      >
      <template #gives="{ row: k }"
        ><span :class="{ 'text-madder': k.read }">{{ k.read ? reason(k.read) : said.yes }}</span></template
      >
      <template #takes="{ row: k }"
        ><span :class="{ 'text-madder': k.write }">{{ k.write ? reason(k.write) : said.yes }}</span></template
      >
      <template #limits="{ row: k }">{{
        [...Object.entries(k.limits).map(([name, n]) => limitLine(name, n)), ...k.changes.map((c) => reason(c.code))].join('; ') || '—'
      }}</template>
    </DataTable>
    <div class="mb-2 flex items-baseline justify-between">
      <h3 class="text-[0.95rem]">{{ said.makingItReady }}</h3>
      <span class="flex gap-1" role="group" :aria-label="said.role">
        <SmallButton v-for="s in ['old', 'new'] as const" :key="s" :pressed="side === s" @click="side = s">{{
          said.as(words.sides[s])
        }}</SmallButton>
      </span>
    </div>
    <ul class="space-y-2">
      <li v-for="need in needs" :key="need.code" class="border border-rule bg-sheet px-3 py-2" :data-guide-need="need.code">
        <details>
          <summary class="cursor-pointer">
            <strong>{{ need.title }}</strong>{{ ' ' }}
            <span class="text-xs text-soft">{{
              said.needLine(forKinds(need.kinds), need.weight === 'warn', need.seenBy === 'person')
            }}</span>
          </summary>
          <p v-if="need.why" class="my-1 text-soft">{{ need.why }}</p>
          <StepList :steps="need.steps" class="mt-1" />
          <template v-if="need.putBack"
            ><p class="mt-2 text-xs font-semibold text-soft">{{ said.atHandBack(need.putBack.title) }}</p>
            <StepList :steps="need.putBack.steps"
          /></template>
        </details>
      </li>
    </ul>
    <p v-if="needs.length === 0" class="text-soft">{{ said.noStepSpeaks }}</p>
    <template v-if="guide.causes.length > 0">
      <h3 class="mt-5 mb-2 text-[0.95rem]">
        {{ said.notSeen }} <span class="font-body text-xs font-normal text-soft">{{ said.likeliestFirst }}</span>
      </h3>
      <ol class="space-y-1.5">
        <li v-for="cause in guide.causes" :key="cause.code" class="border border-rule bg-sheet px-3 py-2">
          <strong>{{ cause.title }}.</strong> <span class="text-soft">{{ cause.look }}</span><StepList :steps="cause.steps" class="mt-1" />
        </li>
      </ol>
    </template>
    <p class="mt-3 text-xs text-soft">{{ said.from(guide.from.join(', ')) }}</p>
  </article>
</template>
