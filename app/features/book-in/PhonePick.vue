<script setup lang="ts">
import { computed, ref } from 'vue'
import { RadioGroup, RadioGroupLabel, RadioGroupOption } from '@headlessui/vue'
import type { TodayView } from '#contracts/http/ticket.ts'
import { errors, isErrorCode } from '#contracts/errors.ts'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { pickOfPort, type Model, type PhoneChoice } from './phone-choice.ts'

/** Names one phone: from a port, by its model when it is not plugged in yet, or (old only) by a dropped file. */
const props = defineProps<{ side: 'old' | 'new'; ports: TodayView['ports']; models: readonly Model[] }>()
const choice = defineModel<PhoneChoice | null>({ required: true })
const sentence = ref('')
const isReading = ref(false)
const isOver = ref(false)

const value = computed(() => choice.value?.serial ?? (choice.value?.link === 'file' ? 'file' : choice.value ? 'model' : ''))
const modelName = computed(() => (value.value === 'model' ? `${choice.value!.maker}|${choice.value!.model}` : ''))
function pick(serial: string) {
  const port = props.ports.find((p) => p.phone?.serial === serial)
  if (port) choice.value = pickOfPort(port)
}
function pickModel(event: Event) {
  const [maker, model] = (event.target as HTMLSelectElement).value.split('|')
  const found = props.models.find((m) => m.maker === maker && m.model === model)
  choice.value = found ? { link: 'standin', maker: found.maker, model: found.model, platform: found.platform, version: found.versions[0] ?? '', serial: null } : null
}
async function take(file: File | undefined) {
  isOver.value = false
  if (!file) return
  isReading.value = true
  sentence.value = ''
  try {
    // the file's name stays here: it may be a customer's
    const response = await fetch('/api/uploads', { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: file })
    const answer = (await response.json()) as { upload: string; cards: number; code?: string }
    if (!response.ok) throw new Error(answer.code)
    choice.value = { link: 'file', maker: 'File', model: 'Contacts file', platform: 'file', version: '', serial: null, upload: answer.upload, cards: answer.cards }
  } catch (error) {
    const { message } = error as Error
    sentence.value = isErrorCode(message) ? errors[message].sentence : 'The file could not be read. Try again.'
  } finally {
    isReading.value = false
  }
}
</script>

<template>
  <fieldset class="border-t-[3px] border-ink bg-sheet p-3.5" @dragover.prevent="isOver = side === 'old'" @dragleave="isOver = false" @drop.prevent="side === 'old' && take($event.dataTransfer?.files[0])">
    <legend class="sr-only">{{ side === 'old' ? 'Old phone' : 'New phone' }}</legend>
    <p class="mb-2 font-head text-xl font-bold" aria-hidden="true">{{ side === 'old' ? 'OLD' : 'NEW' }}</p>
    <RadioGroup :model-value="value" class="space-y-1" @update:model-value="pick">
      <RadioGroupLabel as="span" class="mb-1 block text-xs text-soft">Plugged in, without a ticket</RadioGroupLabel>
      <RadioGroupOption v-for="port in ports" :key="port.port" v-slot="{ checked }" :value="port.phone!.serial" as="template">
        <div class="flex cursor-pointer items-baseline justify-between border px-2.5 py-1.5" :class="checked ? 'border-ink bg-row' : 'border-rule'">
          <span><strong>{{ port.phone!.model }}</strong> <span class="text-soft">{{ words.platforms[port.phone!.platform] }} {{ port.phone!.version }}</span></span>
          <span class="font-head text-soft">port {{ port.port }}</span>
        </div>
      </RadioGroupOption>
    </RadioGroup>
    <p v-if="ports.length === 0" class="text-soft">None. Plug it in, or name its model:</p>
    <label class="mt-3 block">
      <span class="mb-1 block text-xs text-soft">Not plugged in yet: model</span>
      <select class="field" :value="modelName" @change="pickModel">
        <option value="">—</option>
        <option v-for="m in models" :key="m.model" :value="`${m.maker}|${m.model}`">{{ m.model }} ({{ words.platforms[m.platform] }})</option>
      </select>
    </label>
    <label v-if="side === 'old'" class="mt-3 block cursor-pointer border border-dashed p-2.5" :class="isOver || value === 'file' ? 'border-ink bg-row' : 'border-faint'">
      <span class="block text-xs text-soft">Or a contacts file (.vcf), dropped here</span>
      <input type="file" accept=".vcf,.vcard,text/vcard" class="mt-1 w-full text-xs file:mr-2 file:rounded-[3px] file:border file:border-ink file:bg-sheet file:px-2 file:py-1 file:font-semibold" @change="take(($event.target as HTMLInputElement).files?.[0])" />
      <span v-if="isReading" role="status">Reading the file…</span>
      <strong v-else-if="choice?.link === 'file'" role="status">{{ number(choice.cards ?? 0) }} cards in the file</strong>
    </label>
    <SentenceBox v-if="sentence" tone="bad" class="mt-2">{{ sentence }}</SentenceBox>
  </fieldset>
</template>
