<script setup lang="ts">
import { computed, ref } from 'vue'
import type { GuidePhoneView } from '#contracts/http/ready.ts'
import { limitLine, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import StepList from '../ready/StepList.vue'

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
const forKinds = (kinds: readonly string[]) => (kinds.length === 6 ? 'every kind' : kinds.map((kind) => words.many[kind]).join(', '))
</script>

<template>
  <article class="min-w-0">
    <h2 class="mb-1 text-lg">
      {{ phone.model }}
      <span class="font-body text-sm font-normal text-soft">{{ words.platforms[phone.platform] }} {{ phone.version }}</span>
    </h2>
    <table class="mb-4 w-full border border-rule bg-sheet text-left text-[0.8rem]" aria-label="Kinds">
      <thead class="text-xs text-soft">
        <tr class="border-b border-ink">
          <th scope="col" class="px-2.5 py-1 font-normal">Kind</th>
          <th scope="col" class="px-2 font-normal">Gives</th>
          <th scope="col" class="px-2 font-normal">Takes</th>
          <th scope="col" class="px-2 font-normal">Limits and forced changes</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="k in guide.kinds" :key="k.kind" class="border-b border-rule last:border-0 align-top">
          <th scope="row" class="px-2.5 py-1 font-semibold">{{ words.kinds[k.kind] }}</th>
          <td class="px-2 py-1" :class="k.read ? 'text-madder' : ''">{{ k.read ? reason(k.read) : 'yes' }}</td>
          <td class="px-2 py-1" :class="k.write ? 'text-madder' : ''">{{ k.write ? reason(k.write) : 'yes' }}</td>
          <td class="px-2 py-1 text-soft">
            {{
              [...Object.entries(k.limits).map(([name, n]) => limitLine(name, n)), ...k.changes.map((c) => reason(c.code))].join('; ') ||
              '—'
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <div class="mb-2 flex items-baseline justify-between">
      <h3 class="text-[0.95rem]">Making it ready</h3>
      <span class="flex gap-1" role="group" aria-label="Role">
        <button
          v-for="s in ['old', 'new'] as const"
          :key="s"
          type="button"
          class="border px-2.5 py-0.5 font-head text-xs font-semibold"
          :class="side === s ? 'border-ink bg-ink text-sheet' : 'border-rule bg-sheet'"
          :aria-pressed="side === s"
          @click="side = s"
        >
          as {{ s === 'old' ? 'OLD' : 'NEW' }}
        </button>
      </span>
    </div>
    <ul class="space-y-2">
      <li v-for="need in needs" :key="need.code" class="border border-rule bg-sheet px-3 py-2" :data-guide-need="need.code">
        <details>
          <summary class="cursor-pointer">
            <strong>{{ need.title }}</strong>{{ ' ' }}
            <span class="text-xs text-soft"
              >for {{ forKinds(need.kinds) }}{{ need.weight === 'warn' ? ', recommended' : ''
              }}{{ need.seenBy === 'person' ? ', looked at by you' : '' }}</span
            >
          </summary>
          <p v-if="need.why" class="my-1 text-soft">{{ need.why }}</p>
          <StepList :steps="need.steps" class="mt-1" />
          <template v-if="need.putBack"
            ><p class="mt-2 text-xs font-semibold text-soft">At hand back: {{ need.putBack.title }}</p>
            <StepList :steps="need.putBack.steps"
          /></template>
        </details>
      </li>
    </ul>
    <p v-if="needs.length === 0" class="text-soft">No step speaks of that.</p>
    <template v-if="guide.causes.length > 0">
      <h3 class="mt-5 mb-2 text-[0.95rem]">
        When it is not seen, or says nothing <span class="font-body text-xs font-normal text-soft">the likeliest first</span>
      </h3>
      <ol class="space-y-1.5">
        <li v-for="cause in guide.causes" :key="cause.code" class="border border-rule bg-sheet px-3 py-2">
          <strong>{{ cause.title }}.</strong> <span class="text-soft">{{ cause.look }}</span><StepList :steps="cause.steps" class="mt-1" />
        </li>
      </ol>
    </template>
    <p class="mt-3 text-xs text-soft">From: {{ guide.from.join(', ') }}</p>
  </article>
</template>
