<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { Download } from '@lucide/vue'
import { calls } from '#contracts/http/calls.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { addressOf } from '../../composables/use-api.ts'
import { bytes, clock, fullDay, number } from '../../words/say.ts'
import { takeHome as said } from '../../words/take-home.ts'
import { ofTicket, type TicketCall } from '../ticket/ticket-call.ts'
import PasswordDialog from './PasswordDialog.vue'
import { useFolder } from './use-folder.ts'

/** What the customer takes home: as it was proved, to be fetched, put into a folder, locked. */
const props = defineProps<{ ticket: TicketView; busy: string; zone: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall] }>()
const archive = computed(() => props.ticket.new.archive)
const address = computed(() => addressOf(calls.takeHome, { number: props.ticket.number }))
const { report, put, canPut } = useFolder()
const hasFolders = ref(false)
onMounted(() => (hasFolders.value = canPut()))
const password = ref('')
const isAsked = ref(false)
const isLocking = ref(false)
const canLock = computed(() => !props.ticket.run && !props.ticket.signedAt && !props.ticket.calledOff)
const line = computed(() => {
  const now = report.value
  if (!now) return ''
  const [done, total] = [number(now.done), number(now.total)]
  if (now.step === 'putting') return said.putting(done, total)
  if (now.step === 'reading-back') return said.readingBack(done, total)
  if (now.step === 'failed') return said.folderIssues[now.issue ?? ''] ?? said.folderFailed
  return now.bad > 0 ? said.notInFolder(number(now.bad)) : said.inFolder(total)
})
function intoFolder() {
  if (archive.value!.hasPassword && !password.value) isAsked.value = true
  else void put(address.value, password.value)
}
function lock(chosen: string | null) {
  isLocking.value = false
  emit('act', 'lock-home', ofTicket(calls.lockTakeHome, { password: chosen }))
}
</script>

<template>
  <section v-if="!ticket.erasedAt" class="mb-3 border border-rule bg-sheet p-3" :aria-label="said.title" data-testid="take-home">
    <h3 class="mb-1 font-body font-semibold">{{ said.title }}</h3>
    <p v-if="!archive" class="text-soft">{{ said.notYet }}</p>
    <p v-else-if="!archive.isThere" class="text-ochre">{{ said.notThere }}</p>
    <template v-else>
      <p>{{ said.proved(number(archive.files), bytes(archive.sizeBytes)) }} {{ archive.hasPassword ? said.locked : said.open }}</p>
      <p class="mt-1 text-xs text-soft">{{ said.mark(archive.mark) }} {{ said.until(fullDay(archive.keepUntil, zone)) }}</p>
      <p class="mt-1 text-xs" :class="archive.takenAt ? 'text-verdigris' : 'text-ochre'" data-testid="home-taken">
        {{ archive.takenAt ? said.taken(clock(archive.takenAt, zone)) : said.notTaken }}
      </p>
      <div class="mt-2 flex flex-wrap items-center gap-2">
        <a
          class="flex items-center gap-1.5 rounded-[3px] border border-ink bg-ink px-2.5 py-1 text-xs font-semibold text-sheet"
          :href="address"
          download
          ><Download :size="14" aria-hidden="true" />{{ said.fetch }}</a
        >
        <SmallButton v-if="hasFolders" @click="intoFolder">{{ said.intoFolder }}</SmallButton>
        <SmallButton v-if="canLock" @click="isLocking = true">{{
          archive.hasPassword ? said.changePassword : said.setPassword
        }}</SmallButton>
      </div>
      <form v-if="isAsked" class="mt-2 flex items-end gap-2" @submit.prevent="intoFolder">
        <label class="flex-1"
          ><span class="mb-1 block text-xs text-soft">{{ said.needsPassword }}</span
          ><input v-model="password" class="field" type="password" autocomplete="off" maxlength="200"
        /></label>
        <SmallButton type="submit">{{ said.intoFolder }}</SmallButton>
      </form>
      <p v-if="line" class="mt-2 text-xs" role="status" :class="report!.step === 'failed' || report!.bad > 0 ? 'text-madder' : ''">
        {{ line }}
      </p>
    </template>
    <PasswordDialog :open="isLocking" :has-password="archive?.hasPassword ?? false" @close="isLocking = false" @send="lock" />
  </section>
</template>
