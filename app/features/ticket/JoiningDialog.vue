<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { computed, onMounted, ref } from 'vue'
import type { JoiningRow, JoiningSides } from '#contracts/http/ledger.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, ApiFailure } from '../../composables/use-api.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { joiningDialog } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(joiningDialog)

/** One person on both phones, field by field, and the record the two would make. */
const props = defineProps<{ ticket: string; kind: string; row: JoiningRow; canDecide: boolean }>()
defineEmits<{ close: []; decide: [decision: 'keep' | 'join'] }>()
const sides = ref<JoiningSides | null>(null)
const sentence = ref('')
onMounted(async () => {
  try {
    sides.value = await api(calls.joining, { params: { number: props.ticket }, body: { kind: props.kind, key: props.row.key } })
  } catch (error) {
    sentence.value = error instanceof ApiFailure ? error.sentence : ''
  }
})
/** A line for each field that any of the three says. */
const fields = computed(() => {
  if (!sides.value) return []
  const { ours, theirs, joined } = sides.value
  const names = [...new Set([...ours, ...theirs].map(({ field }) => field))]
  const said = (lines: readonly { field: string; text: string }[] | null, name: string) =>
    (lines ?? []).filter(({ field }) => field === name).map(({ text }) => text)
  return names.map((name) => ({
    name,
    ours: said(ours, name),
    theirs: said(theirs, name),
    joined: said(joined, name),
    differs: props.row.conflicts.includes(name),
  }))
})
</script>

<template>
  <AppDialog open wide :title="row.title || common.noName" @close="$emit('close')">
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <div v-if="sides" class="max-h-96 overflow-y-auto">
      <table class="w-full table-fixed border-collapse text-left">
        <thead>
          <tr class="border-b border-ink text-xs text-soft">
            <th class="w-24 py-1 font-semibold">{{ said.field }}</th>
            <th class="font-semibold">
              <strong class="text-ink">{{ words.sides.old }}</strong> {{ said.phone }}
            </th>
            <th class="font-semibold">
              <strong class="text-ink">{{ words.sides.new }}</strong> {{ said.phone }}
            </th>
            <th class="font-semibold">{{ sides.joined ? said.asOne : said.stayTwo }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="field in fields" :key="field.name" class="border-b border-rule align-top" :class="{ 'bg-ochre-pale': field.differs }">
            <th scope="row" class="py-1 font-normal text-soft">{{ words.fields[field.name] ?? field.name }}</th>
            <td v-for="side in ['ours', 'theirs', 'joined'] as const" :key="side" class="py-1 pr-2 break-words whitespace-pre-line">
              {{ field[side].join('\n') || '—' }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="sides && !sides.joined" class="mt-2 text-ochre">
      {{ said.stayTwoNote }}
    </p>
    <div class="mt-4 flex gap-2">
      <template v-if="canDecide && sides?.joined && row.state === 'open'">
        <AppButton look="accent" @click="$emit('decide', 'join')">{{ said.joinIntoOneRecord }}</AppButton>
        <AppButton @click="$emit('decide', 'keep')">{{ common.keepBoth }}</AppButton>
      </template>
      <AppButton v-else @click="$emit('close')">{{ common.close }}</AppButton>
    </div>
  </AppDialog>
</template>
