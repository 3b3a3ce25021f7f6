<script setup lang="ts">
import { onMounted, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { calls } from '#contracts/http/calls.ts'
import { locales } from '#contracts/http/sets.ts'
import AppButton from '../components/base/AppButton.vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../composables/use-api.ts'
import { useSession } from '../stores/session.ts'
import { localeWords } from '../words/settings.ts'
import { common } from '../words/common.ts'
import { firstStartPage as said } from '../words/sign-in.ts'

/** An empty shop: what it is called, and who works here first. The PIN is made here and shown nowhere else. */
const router = useRouter()
const session = useSession()
const zones = ['UTC', ...Intl.supportedValuesOf('timeZone')]
const here = Intl.DateTimeFormat().resolvedOptions().timeZone
const shop = reactive({
  name: '',
  address: '',
  zone: zones.includes(here) ? here : 'UTC',
  locale: 'en-GB' as (typeof locales)[number],
})
const staff = reactive({ name: '', initials: '', pin: '' })
const [again, sentence, isBusy] = [ref(''), ref(''), ref(false)]
useHead({ title: said.tabTitle })
onMounted(async () => {
  const { isNew } = await api(calls.isNew).catch(() => ({ isNew: true }))
  if (!isNew) await router.replace('/sign-in')
})
/** Of “Rowan Pike”: RP. */
function suggest() {
  if (staff.initials) return
  const names = staff.name.trim().split(/\s+/)
  staff.initials =
    names.length > 1
      ? names
          .map((name) => name[0]!.toUpperCase())
          .join('')
          .slice(0, 3)
      : staff.name.slice(0, 2).toUpperCase()
}
async function setUp() {
  sentence.value = ''
  if (!/^\d{4,12}$/.test(staff.pin)) return void (sentence.value = said.pinLength)
  if (staff.pin !== again.value) return void (sentence.value = said.pinsDiffer)
  isBusy.value = true
  try {
    await api(calls.firstStart, { body: { shop, staff } })
    await session.signIn(staff.name, staff.pin)
    await router.push('/settings')
  } catch (error) {
    sentence.value = sentenceOf(error)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <main class="grid min-h-screen place-items-center bg-paper p-6">
    <form class="w-full max-w-xl border-t-4 border-ink bg-panel p-6" @submit.prevent="setUp">
      <h1 class="text-xl">{{ said.setShopUp }}</h1>
      <p class="mb-4 text-soft">{{ said.lead }}</p>
      <fieldset class="mb-4 grid grid-cols-2 gap-3 max-md:grid-cols-1">
        <legend class="mb-1.5 font-head font-semibold">{{ common.shop }}</legend>
        <label
          ><span class="mb-1 block text-xs text-soft">{{ said.shopName }}</span
          ><input v-model="shop.name" class="field" required maxlength="80" autofocus
        /></label>
        <label
          ><span class="mb-1 block text-xs text-soft">{{ common.address }}</span
          ><input v-model="shop.address" class="field" maxlength="200"
        /></label>
        <label
          ><span class="mb-1 block text-xs text-soft">{{ common.timeZone }}</span
          ><select v-model="shop.zone" class="field">
            <option v-for="zone in zones" :key="zone">{{ zone }}</option>
          </select></label
        >
        <label
          ><span class="mb-1 block text-xs text-soft">{{ common.languageOfDates }}</span
          ><select v-model="shop.locale" class="field">
            <option v-for="code in locales" :key="code" :value="code">{{ localeWords[code] }}</option>
          </select></label
        >
      </fieldset>
      <fieldset class="mb-4 grid grid-cols-2 gap-3 max-md:grid-cols-1">
        <legend class="mb-1.5 font-head font-semibold">{{ said.you }}</legend>
        <label
          ><span class="mb-1 block text-xs text-soft">{{ said.yourName }}</span
          ><input v-model="staff.name" class="field" required maxlength="60" autocomplete="username" @change="suggest"
        /></label>
        <label
          ><span class="mb-1 block text-xs text-soft">{{ common.initials }}</span
          ><input v-model="staff.initials" class="field" required maxlength="3" autocomplete="off"
        /></label>
        <label
          ><span class="mb-1 block text-xs text-soft">{{ said.yourPin }}</span
          ><input v-model="staff.pin" class="field" type="password" inputmode="numeric" autocomplete="new-password" required
        /></label>
        <label
          ><span class="mb-1 block text-xs text-soft">{{ said.pinAgain }}</span
          ><input v-model="again" class="field" type="password" inputmode="numeric" autocomplete="new-password" required
        /></label>
      </fieldset>
      <SentenceBox v-if="sentence" tone="bad" class="mb-3">{{ sentence }}</SentenceBox>
      <AppButton look="accent" type="submit" :busy="isBusy">{{ said.openShop }}</AppButton>
    </form>
  </main>
</template>
