<script setup lang="ts">
import { computed, ref } from 'vue'
import { RadioGroup, RadioGroupLabel, RadioGroupOption } from '@headlessui/vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import { usePortNames } from '../../composables/use-port-names.ts'
import { words } from '../../words/words.ts'
import RightPhoneDialog from '../ready/RightPhoneDialog.vue'
import FilePick from './FilePick.vue'
import FolderPick from './FolderPick.vue'
import LockerPick from './LockerPick.vue'
import { pickOfPort, type ListedPort, type Model, type PhoneChoice } from './phone-choice.ts'
import { phonePick as said } from '../../words/book-in.ts'

/** Names one phone: from a port, by its model when it is not plugged in yet, or (old only) by a dropped file. */
const props = withDefaults(
  defineProps<{
    side: 'old' | 'new'
    ports: readonly ListedPort[]
    models: readonly Model[]
    /** In lockers: what can be put back. */
    copies?: readonly CopyView[]
  }>(),
  { copies: () => [] },
)
const choice = defineModel<PhoneChoice | null>({ required: true })
const files = ref<InstanceType<typeof FilePick> | null>(null)
const nameOf = usePortNames()
/** A phone that was on another ticket today: asked about before it is the new one. */
const asks = ref<(NonNullable<InstanceType<typeof RightPhoneDialog>['$props']['asks']> & { serial: string }) | null>(null)

const value = computed(() => {
  const { serial = null, place } = choice.value ?? {}
  return serial ?? (place === undefined ? '' : place === 'bench' ? 'model' : place)
})
const modelName = computed(() => (value.value === 'model' ? `${choice.value!.maker}|${choice.value!.model}` : ''))
function pick(serial: string) {
  const listed = props.ports.find(({ port, isGone }) => !isGone && port.phone?.serial === serial)
  if (!listed) return
  const { seenToday, phone, port } = listed.port
  if (props.side === 'new' && seenToday && asks.value === null) {
    asks.value = { side: props.side, model: phone!.model, port, seenToday, booked: null, serial }
    return
  }
  asks.value = null
  choice.value = pickOfPort(listed.port)
}
function pickModel(event: Event) {
  const [maker, model] = (event.target as HTMLSelectElement).value.split('|')
  const found = props.models.find((m) => m.maker === maker && m.model === model)
  choice.value = found
    ? { place: 'bench', maker: found.maker, model: found.model, platform: found.platform, version: found.versions[0] ?? '', serial: null }
    : null
}
</script>

<template>
  <fieldset class="border-t-[3px] border-ink bg-sheet p-3.5" @dragover.prevent @drop.prevent="files?.drop($event.dataTransfer)">
    <legend class="sr-only">{{ words.sidePhones[side] }}</legend>
    <p class="mb-2 font-head text-xl font-bold" aria-hidden="true">{{ words.sides[side] }}</p>
    <RadioGroup :model-value="value" class="space-y-1" @update:model-value="pick">
      <RadioGroupLabel as="span" class="mb-1 block text-xs text-soft">{{ said.pluggedInWithoutTicket }}</RadioGroupLabel>
      <RadioGroupOption
        v-for="{ port, isGone } in ports"
        :key="port.phone!.serial"
        v-slot="{ checked }"
        :value="port.phone!.serial"
        :disabled="isGone"
        as="template"
      >
        <div
          class="flex items-baseline justify-between border px-2.5 py-1.5"
          :class="[checked ? 'border-ink bg-row' : 'border-rule', isGone ? 'text-soft' : 'cursor-pointer']"
        >
          <span
            ><strong>{{ port.phone!.model }}</strong
            >{{ ' ' }} <span class="text-soft">{{ words.platforms[port.phone!.platform] }} {{ port.phone!.version }}</span></span
          >
          <span class="font-head text-soft">{{
            isGone ? said.noLongerFree : [said.port(port.port), nameOf(port.port)].filter(Boolean).join(', ')
          }}</span>
        </div>
      </RadioGroupOption>
    </RadioGroup>
    <p v-if="ports.length === 0" class="text-soft">{{ said.none }}</p>
    <label class="mt-3 block">
      <span class="mb-1 block text-xs text-soft">{{ said.orModel }}</span>
      <select class="field" :value="modelName" @change="pickModel">
        <option value="">—</option>
        <option v-for="m in models" :key="m.model" :value="`${m.maker}|${m.model}`">
          {{ m.model }} ({{ words.platforms[m.platform] }})
        </option>
      </select>
    </label>
    <FilePick v-if="side === 'old'" ref="files" v-model="choice" />
    <FolderPick v-if="side === 'new'" v-model="choice" />
    <LockerPick v-model="choice" :side="side" :copies="copies" />
    <RightPhoneDialog :asks="asks" @no="asks = null" @yes="pick(asks!.serial)" />
  </fieldset>
</template>
