<script setup lang="ts">
import type { ItemView } from '#contracts/http/ticket.ts'
import { calls } from '#contracts/http/calls.ts'
import { onMounted, ref } from 'vue'
import type { EntryFilter, EntryRow } from '#contracts/http/ledger.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, ApiFailure } from '../../composables/use-api.ts'
import { reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'

/** One item with its fields and why it ended as it did; only while showing is allowed. */
const props = defineProps<{ ticket: string; kind: string; filter: EntryFilter; entry: EntryRow }>()
defineEmits<{ close: [] }>()
const item = ref<ItemView | null>(null)
const sentence = ref('')
onMounted(async () => {
  try {
    item.value = await api(calls.item, {
      params: { number: props.ticket },
      body: { kind: props.kind, key: props.entry.key, filter: props.filter },
    })
  } catch (error) {
    sentence.value = error instanceof ApiFailure ? error.sentence : ''
  }
})
</script>

<template>
  <AppDialog open :title="item?.title || common.noName" @close="$emit('close')">
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p class="mb-2 font-semibold">
      {{ words.filters[entry.fate] ?? entry.fate
      }}<span v-if="entry.reasons.length > 0" class="font-normal text-soft">: {{ entry.reasons.map(reason).join('; ') }}</span>
    </p>
    <ul v-if="item?.issues.length" class="mb-2 text-xs text-soft" data-testid="issues">
      <li v-for="issue in item.issues" :key="issue" class="first-letter:uppercase">{{ words.issues[issue] ?? issue }}.</li>
    </ul>
    <dl v-if="item" class="grid max-h-80 grid-cols-[6rem_1fr] gap-y-1 overflow-y-auto">
      <template v-for="(line, i) in item.lines" :key="i"
        ><dt class="text-soft">{{ words.fields[line.field] ?? line.field }}</dt>
        <dd class="whitespace-pre-line break-words">{{ line.text }}</dd></template
      >
    </dl>
    <AppButton class="mt-4" @click="$emit('close')">{{ common.close }}</AppButton>
  </AppDialog>
</template>
