<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import type { ShopView } from '#contracts/http/shop.ts'
import { locales } from '#contracts/http/sets.ts'
import { idleChoices, idleWords, localeWords } from '../../words/settings.ts'
import AppButton from '../../components/base/AppButton.vue'
import { common } from '../../words/common.ts'
import { shopForm as said } from '../../words/settings.ts'

/** What the shop says of itself on paper and screen, and how long it keeps things. */
const props = defineProps<{ shop: ShopView; busy: boolean }>()
const emit = defineEmits<{ save: [changed: Partial<ShopView>] }>()
const form = reactive({ ...props.shop })
const fields = ['name', 'address', 'zone', 'locale', 'idleMinutes', 'receiptTerms', 'sheetWords', 'serialDays'] as const
// what changed elsewhere is taken over; what is being written here stays
watch(
  () => props.shop,
  (now, before) => {
    for (const field of fields) if (now[field] !== before[field]) Object.assign(form, { [field]: now[field] })
  },
)
const changed = computed(() =>
  Object.fromEntries(fields.filter((field) => form[field] !== props.shop[field]).map((field) => [field, form[field]])),
)
const isChanged = computed(() => Object.keys(changed.value).length > 0)
const zones = ['UTC', ...Intl.supportedValuesOf('timeZone')]
const isSent = ref(false)
function save() {
  isSent.value = true
  if (isChanged.value) emit('save', changed.value)
}
</script>

<template>
  <form class="grid grid-cols-2 gap-3 max-md:grid-cols-1" :aria-label="common.shop" @submit.prevent="save">
    <label
      ><span class="mb-1 block text-xs text-soft">{{ common.name }}</span
      ><input v-model="form.name" class="field" required maxlength="80"
    /></label>
    <label
      ><span class="mb-1 block text-xs text-soft">{{ common.address }}</span
      ><input v-model="form.address" class="field" maxlength="200"
    /></label>
    <label
      ><span class="mb-1 block text-xs text-soft">{{ common.timeZone }}</span
      ><select v-model="form.zone" class="field">
        <option v-if="!zones.includes(form.zone)">{{ form.zone }}</option>
        <option v-for="zone in zones" :key="zone">{{ zone }}</option>
      </select></label
    >
    <label
      ><span class="mb-1 block text-xs text-soft">{{ common.languageOfDates }}</span
      ><select v-model="form.locale" class="field">
        <option v-for="code in locales" :key="code" :value="code">{{ localeWords[code] }}</option>
      </select></label
    >
    <label
      ><span class="mb-1 block text-xs text-soft">{{ common.signBrowserOut }}</span
      ><select v-model.number="form.idleMinutes" class="field">
        <option v-for="minutes in idleChoices(shop.idleMinutes)" :key="minutes" :value="minutes">
          {{ idleWords(minutes) }}
        </option>
      </select></label
    >
    <label
      ><span class="mb-1 block text-xs text-soft">{{ said.serialDays }}</span
      ><input v-model.number="form.serialDays" class="field" type="number" min="1" max="3650" required
    /></label>
    <label class="col-span-2 max-md:col-span-1"
      ><span class="mb-1 block text-xs text-soft">{{ said.receiptTerms }}</span
      ><textarea v-model="form.receiptTerms" class="field" rows="3" maxlength="2000" />
    </label>
    <label class="col-span-2 max-md:col-span-1"
      ><span class="mb-1 block text-xs text-soft">{{ said.sheetWords }}</span
      ><textarea v-model="form.sheetWords" class="field" rows="2" maxlength="2000" />
    </label>
    <div>
      <AppButton type="submit" look="accent" :busy="busy">{{ isSent && !isChanged ? said.kept : common.keepChanges }}</AppButton>
    </div>
  </form>
</template>
