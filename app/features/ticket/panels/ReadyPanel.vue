<script setup lang="ts">
import { computed, ref } from 'vue'
import { ArrowLeftRight, Check, CircleAlert } from '@lucide/vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { useTickets } from '../../../stores/tickets.ts'
import { words } from '../../../words/words.ts'

/** Which phone is which, and what each still needs; the list ticks itself from what the phones report. */
const props = defineProps<{ ticket: TicketView; stage: string; busy: string }>()
const emit = defineEmits<{ act: [name: string, path: string, body?: unknown] }>()
const store = useTickets()
if (!store.today) void store.loadToday()
const phones = computed(() => [props.ticket.old, props.ticket.new])
const serials = ref<{ old: string; new: string }>({ old: props.ticket.old.serial ?? '', new: props.ticket.new.serial ?? '' })
const choices = computed(() => (store.today?.ports ?? []).filter((p) => p.phone && (!p.ticket || p.ticket === props.ticket.number)))
const set = () => emit('act', 'roles', 'roles', { oldSerial: serials.value.old, newSerial: serials.value.new })
const exchange = () => emit('act', 'roles', 'roles', { oldSerial: props.ticket.new.serial, newSerial: props.ticket.old.serial })
const needs = ['plugged', 'unlocked', 'trusted', 'contacts-allowed', 'battery']
const isUnnamed = computed(() => phones.value.some((phone) => phone.link === 'standin' && !phone.serial))
</script>

<template>
  <section v-for="phone in phones" :key="phone.side" class="mb-3 border border-t-[3px] border-rule border-t-ink bg-sheet p-3">
    <h3 class="mb-1.5 flex items-baseline gap-2 font-body"><strong class="font-head text-lg">{{ phone.side === 'old' ? 'OLD' : 'NEW' }}</strong>{{ phone.model }}<span v-if="phone.port" class="font-normal text-soft">port {{ phone.port }}</span></h3>
    <p v-if="phone.link === 'file'" class="text-soft">Read from a file; nothing to make ready.</p>
    <label v-else-if="!phone.serial" class="block">
      <span class="mb-1 block text-xs text-soft">Which port is it in?</span>
      <select v-model="serials[phone.side]" class="field"><option value="">—</option><option v-for="p in choices" :key="p.port" :value="p.phone!.serial">port {{ p.port }}: {{ p.phone!.model }}</option></select>
    </label>
    <ul v-else class="space-y-1">
      <li v-for="need in needs.filter((n) => n !== 'plugged' || phone.unmet.includes('plugged'))" :key="need" class="flex items-start gap-2" :data-need="need" :data-state="phone.unmet.includes(need) || !phone.port ? 'unmet' : 'met'">
        <template v-if="!phone.port && need !== 'plugged'"><span class="w-4 text-faint" aria-hidden="true">·</span><span class="text-soft">{{ words.needs[need] }}</span></template>
        <template v-else-if="phone.unmet.includes(need)"><CircleAlert :size="16" class="mt-0.5 shrink-0 text-ochre" aria-label="needed:" /><strong class="text-ochre">{{ words.needs[need] }}</strong></template>
        <template v-else><Check :size="16" class="mt-0.5 shrink-0 text-verdigris" aria-label="done:" /><span class="text-soft">{{ words.needsMet[need] }}</span></template>
      </li>
    </ul>
  </section>
  <AppButton v-if="isUnnamed" look="accent" :disabled="!(serials.old || ticket.old.link === 'file') || !serials.new" :busy="busy === 'roles'" @click="set">These are the two phones</AppButton>
  <AppButton v-else-if="!ticket.areRolesFrozen && ticket.old.link === 'standin'" look="quiet" :busy="busy === 'roles'" @click="exchange"><ArrowLeftRight :size="14" class="mr-1 inline" aria-hidden="true" />Exchange old and new</AppButton>
  <p v-else class="text-xs text-soft">Writing has begun: which phone is old and which is new stays as it is.</p>
</template>
