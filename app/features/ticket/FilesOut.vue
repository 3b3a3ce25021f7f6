<script setup lang="ts">
import { addressOf } from '../../composables/use-api.ts'
import { calls } from '#contracts/http/calls.ts'
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { words } from '../../words/words.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { filesOut } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(filesOut)

/** The old phone's data as open files; they say what they hold, so names must be shown first. */
const props = defineProps<{ ticket: TicketView }>()
defineEmits<{ show: [] }>()
const kinds = computed(() =>
  props.ticket.ledger
    .filter((row) => row.old.read > 0 && words.files[row.kind])
    .map((row) => ({ kind: row.kind, formats: words.files[row.kind]!, left: row.fates.unreadable })),
)
</script>

<template>
  <details v-if="kinds.length > 0 && !ticket.erasedAt" class="mb-3 border border-rule bg-sheet" data-testid="files-out">
    <summary class="cursor-pointer px-2.5 py-1.5 text-xs font-semibold">{{ said.asOpenFiles }}</summary>
    <div class="border-t border-rule px-2.5 py-2">
      <p class="mb-1.5 text-xs text-soft">
        {{ said.lead }}
      </p>
      <ul v-if="ticket.showingUntil" class="space-y-1">
        <li v-for="k in kinds" :key="k.kind" class="flex flex-wrap items-baseline gap-x-2">
          <span class="w-20">{{ words.kinds[k.kind] }}</span>
          <a
            v-for="(name, format) in k.formats"
            :key="format"
            class="text-xs font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink"
            :href="addressOf(calls.file, { number: ticket.number, kind: k.kind, format: String(format) })"
            download
            >{{ name }}</a
          >
        </li>
      </ul>
      <SmallButton v-else class="w-full" @click="$emit('show')">{{ said.namesAreHiddenShow }}</SmallButton>
    </div>
  </details>
</template>
