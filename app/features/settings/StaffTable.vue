<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { SettingsView } from '#contracts/http/shop.ts'
import DataTable from '../../components/base/DataTable.vue'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { common } from '../../words/common.ts'
import { staffTable as said } from '../../words/settings.ts'

/** Who works here, and who did. A PIN is typed in by whom it belongs to, and never shown again. */
type Member = SettingsView['staff'][number]
defineProps<{ staff: readonly Member[] }>()
const emit = defineEmits<{
  hire: [body: { name: string; initials: string; pin: string }]
  change: [id: number, body: { name?: string; initials?: string; pin?: string; isActive?: boolean }]
}>()
const open = ref<'new' | Member | null>(null)
const form = reactive({ name: '', initials: '', pin: '' })
function ask(what: 'new' | Member) {
  Object.assign(form, what === 'new' ? { name: '', initials: '', pin: '' } : { name: what.name, initials: what.initials, pin: '' })
  open.value = what
}
function send() {
  const what = open.value
  open.value = null
  if (what === 'new') return emit('hire', { ...form })
  if (what) emit('change', what.id, { name: form.name, initials: form.initials, ...(form.pin ? { pin: form.pin } : {}) })
}
</script>

<template>
  <DataTable
    :label="common.staff"
    :rows="staff"
    :key-of="(member) => member.id"
    :row-of="(member) => ({ class: member.isActive ? '' : 'text-soft' })"
    :columns="[
      { key: 'name', names: true },
      { key: 'initials' },
      { key: 'left' },
      { key: 'change', isRight: true, class: 'whitespace-nowrap' },
    ]"
  >
    <template #name="{ row: member }"
      ><strong>{{ member.name }}</strong
      ><span v-if="member.isYou" class="text-soft">{{ said.you }}</span></template
    >
    <template #initials="{ row: member }">{{ member.initials }}</template>
    <template #left="{ row: member }">{{ member.isActive ? '' : said.gone }}</template>
    <template #change="{ row: member }">
      <SmallButton :aria-label="said.changeOne(member.name)" @click="ask(member)">{{ said.change }}</SmallButton>
      <SmallButton
        v-if="!member.isYou"
        class="ml-1.5"
        :aria-label="member.isActive ? said.letGoOne(member.name) : said.takeBackOne(member.name)"
        @click="emit('change', member.id, { isActive: !member.isActive })"
        >{{ member.isActive ? said.letGo : said.takeBack }}</SmallButton
      >
    </template>
  </DataTable>
  <AppButton class="mt-2" @click="ask('new')">{{ said.addMemberOfStaff }}</AppButton>
  <AppDialog :open="open !== null" :title="open === 'new' ? said.newMemberOfStaff : said.changeOne(open?.name ?? '')" @close="open = null">
    <form class="space-y-3" @submit.prevent="send">
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ common.name }}</span
        ><input v-model="form.name" class="field" required maxlength="60" autocomplete="off"
      /></label>
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ common.initials }}</span
        ><input v-model="form.initials" class="field" required maxlength="3" autocomplete="off"
      /></label>
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ open === 'new' ? said.pin : said.newPinEmpty }}</span
        ><input
          v-model="form.pin"
          class="field"
          type="password"
          inputmode="numeric"
          pattern="\d{4,12}"
          autocomplete="new-password"
          :required="open === 'new'"
      /></label>
      <p v-if="open !== 'new'" class="text-xs text-soft">{{ said.newPinNote }}</p>
      <div class="flex gap-2">
        <AppButton type="submit" look="accent">{{ open === 'new' ? said.addThem : common.keepChanges }}</AppButton>
        <AppButton look="quiet" @click="open = null">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
