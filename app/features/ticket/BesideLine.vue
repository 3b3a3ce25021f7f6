<script setup lang="ts">
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import LinkButton from '../../components/base/LinkButton.vue'
import { common } from '../../words/common.ts'
import { items } from '../../words/say.ts'
import { besideLine } from '../../words/ticket.ts'
import { words } from '../../words/words.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(besideLine)

/** What the old phone holds and nobody asked for: said, so that nobody finds out at home. */
const props = defineProps<{ ticket: TicketView }>()
defineEmits<{ kinds: [] }>()
const held = computed(() => props.ticket.beside.flatMap(({ kind, items: n }) => (n ? [items(kind, n)] : [])).join(', '))
const unseen = computed(() =>
  props.ticket.beside.flatMap(({ kind, items: n }) => (n === null ? [words.many[kind] ?? kind] : [])).join(', '),
)
</script>

<template>
  <p v-if="held || unseen" class="mt-2 text-soft" data-testid="beside">
    <template v-if="held">{{ said.held(ticket.old.model, held) }}{{ ' ' }}</template
    ><template v-if="unseen">{{ said.unseen(unseen) }}{{ ' ' }}</template>
    <LinkButton v-if="!ticket.run && !ticket.signedAt && !ticket.calledOff" @click="$emit('kinds')">{{
      common.changeWhatIsCarried
    }}</LinkButton>
  </p>
</template>
