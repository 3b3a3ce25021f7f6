<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { api } from '../../composables/use-api.ts'
import { useSession } from '../../stores/session.ts'
import { letterNames, letterOf, type LetterCode } from '../../words/letters.ts'
import { promise } from '../../words/say.ts'
import { needLine } from '../../words/standing.ts'
import { common } from '../../words/common.ts'
import { tellDialog } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(tellDialog)

/** A text for the customer, to be copied into whatever the shop writes with. It holds nothing of what is on a phone. */
const props = defineProps<{ open: boolean; ticket: TicketView }>()
defineEmits<{ close: [] }>()
const session = useSession()
const code = ref<LetterCode>('ready')
const text = ref('')
const phone = ref('')
const copied = ref<'' | 'yes' | 'no'>('')
const need = computed(() => [props.ticket.old, props.ticket.new].map(needLine).find((line) => line !== '') ?? '')
/** What the ticket asks for by itself. */
const likely = (): LetterCode =>
  props.ticket.mayHandOver || props.ticket.signedAt
    ? 'ready'
    : Date.parse(props.ticket.promisedAt) < Date.now()
      ? 'late'
      : need.value
        ? 'needed'
        : 'ready'
function write() {
  const shop = session.session?.shop
  copied.value = ''
  text.value = letterOf(code.value, {
    ticket: props.ticket,
    shop: shop ?? { name: '', address: '' },
    promised: promise(props.ticket.promisedAt, shop?.zone ?? 'UTC', Date.now()),
    need: need.value,
  })
}
watch(
  () => props.open,
  async (isOpen) => {
    if (!isOpen) return
    code.value = likely()
    write()
    phone.value = (await api(calls.booking, { params: { number: props.ticket.number } }).catch(() => null))?.customer?.phone ?? ''
  },
)
watch(code, write)
async function copy() {
  copied.value = await navigator.clipboard.writeText(text.value).then(
    () => 'yes' as const,
    () => 'no' as const,
  )
  if (copied.value === 'yes')
    void api(calls.told, { params: { number: props.ticket.number }, body: { code: code.value } }).catch(() => undefined)
}
</script>

<template>
  <AppDialog :open="open" :title="said.tellCustomer" @close="$emit('close')">
    <div class="mb-2 flex flex-wrap gap-1.5" role="group" :aria-label="said.whatAbout">
      <SmallButton v-for="(name, key) in letterNames" :key="key" :pressed="code === key" @click="code = key">{{ name }}</SmallButton>
    </div>
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">{{ said.textToBeCopied(phone ? said.sentTo(phone) : '') }}</span
      ><textarea v-model="text" class="field" rows="9" data-testid="letter" @input="copied = ''" />
    </label>
    <SentenceBox v-if="copied === 'no'" tone="note" class="mt-2">{{ said.thisBrowserDoes }}</SentenceBox>
    <div class="mt-3 flex gap-2">
      <AppButton look="accent" @click="copy">{{ copied === 'yes' ? said.copied : said.copyText }}</AppButton>
      <AppButton look="quiet" @click="$emit('close')">{{ common.close }}</AppButton>
    </div>
  </AppDialog>
</template>
