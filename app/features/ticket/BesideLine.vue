<script setup lang="ts">
import type { TicketView } from '#contracts/http/ticket.ts'
import LinkButton from '../../components/base/LinkButton.vue'
import { common } from '../../words/common.ts'
import { besideLine } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(besideLine)

/** What the old phone holds and nobody asked for: said, so that nobody finds out at home. */
defineProps<{ ticket: TicketView }>()
defineEmits<{ kinds: [] }>()
</script>

<template>
  <p v-if="ticket.beside.length > 0" class="mt-2 text-soft" data-testid="beside">
    {{ said.line(ticket.old.model, ticket.beside) }}{{ ' ' }}
    <LinkButton v-if="!ticket.run && !ticket.signedAt && !ticket.calledOff" @click="$emit('kinds')">{{
      common.changeWhatIsCarried
    }}</LinkButton>
  </p>
</template>
