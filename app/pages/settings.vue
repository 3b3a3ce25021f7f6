<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { SettingsView, ShopView } from '#contracts/http/shop.ts'
import DataTable from '../components/base/DataTable.vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../composables/use-api.ts'
import CounterpartTable from '../features/settings/CounterpartTable.vue'
import ShopForm from '../features/settings/ShopForm.vue'
import StaffTable from '../features/settings/StaffTable.vue'
import ThisBrowser from '../features/settings/ThisBrowser.vue'
import AppShell from '../features/shell/AppShell.vue'
import { useSession } from '../stores/session.ts'
import { useTickets } from '../stores/tickets.ts'
import { shortMoment } from '../words/say.ts'
import { changeWords } from '../words/settings.ts'
import { common } from '../words/common.ts'
import { settingsPage as said } from '../words/settings.ts'
import OldNew from '../components/base/OldNew.vue'

/** The shop's own settings, in one page; each change is in the log at its end. */
const session = useSession()
const tickets = useTickets()
const settings = ref<SettingsView | null>(null)
const [sentence, isBusy] = [ref(''), ref(false)]
const zone = computed(() => settings.value?.shop.zone ?? 'UTC')
useHead({ title: said.settingsCorvend })
async function look() {
  settings.value = await api(calls.settings)
  session.keepShop(settings.value.shop)
}
/** Does it, and shows how things stand then; what is refused is said. */
async function act(work: () => Promise<unknown>) {
  isBusy.value = true
  sentence.value = ''
  try {
    await work()
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
  await look().catch(() => undefined)
  isBusy.value = false
}
onMounted(() => {
  void act(async () => undefined)
  if (!tickets.today) void tickets.loadToday().catch(() => undefined)
})
const save = (body: Partial<ShopView>) => act(() => api(calls.setShop, { body: body as never }))
const ports = computed(() => (tickets.today?.ports ?? []).map(({ port }) => port))
const namePort = (port: number, event: Event) => {
  const name = (event.target as HTMLInputElement).value.trim()
  if (name !== (settings.value!.shop.portNames[port] ?? '')) void act(() => api(calls.namePort, { params: { port }, body: { name } }))
}
const short = (text: string | null) => (text === null || text === '' ? '—' : text.length > 60 ? `${text.slice(0, 60)}…` : text)
</script>

<template>
  <AppShell>
    <header class="border-b border-rule bg-panel px-6 py-3.5 max-md:px-3">
      <h1 class="text-xl">{{ common.settings }}</h1>
    </header>
    <div class="max-w-4xl space-y-7 px-6 py-5 max-md:px-3">
      <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
      <p v-if="!settings" class="text-soft">{{ common.looking }}</p>
      <template v-else>
        <section aria-labelledby="s-shop">
          <h2 id="s-shop" class="mb-2 text-[0.95rem]">{{ common.shop }}</h2>
          <ShopForm :shop="settings.shop" :busy="isBusy" @save="save" />
        </section>
        <section aria-labelledby="s-staff">
          <h2 id="s-staff" class="mb-2 text-[0.95rem]">{{ common.staff }}</h2>
          <StaffTable
            :staff="settings.staff"
            @hire="(body) => act(() => api(calls.hire, { body }))"
            @change="(id, body) => act(() => api(calls.changeStaff, { params: { id }, body }))"
          />
        </section>
        <section aria-labelledby="s-ports">
          <h2 id="s-ports" class="mb-2 text-[0.95rem]">{{ said.portsAsShopCalls }}</h2>
          <div class="grid grid-cols-4 gap-2 max-md:grid-cols-2">
            <label v-for="port in ports" :key="port"
              ><span class="mb-1 block text-xs text-soft">{{ said.port(port) }}</span
              ><input
                class="field"
                maxlength="24"
                autocomplete="off"
                :value="settings.shop.portNames[port] ?? ''"
                @change="namePort(port, $event)"
            /></label>
          </div>
        </section>
        <section aria-labelledby="s-browser">
          <h2 id="s-browser" class="mb-2 text-[0.95rem]">{{ said.thisBrowser }}</h2>
          <ThisBrowser />
        </section>
        <section aria-labelledby="s-apps">
          <h2 id="s-apps" class="mb-2 text-[0.95rem]">{{ said.counterpartsOfApps }}</h2>
          <CounterpartTable
            :counterparts="settings.counterparts"
            @correct="
              ({ appId, platform }, counterpartId) => act(() => api(calls.setCounterpart, { body: { appId, platform, counterpartId } }))
            "
            @forget="({ appId, platform }) => act(() => api(calls.setCounterpart, { body: { appId, platform } }))"
          />
        </section>
        <section aria-labelledby="s-log">
          <h2 id="s-log" class="mb-2 text-[0.95rem]">{{ said.whatWasChanged }}</h2>
          <p v-if="settings.changes.length === 0" class="text-soft">{{ said.nothingYet }}</p>
          <DataTable
            v-else
            :label="said.changesOfSettings"
            :rows="settings.changes"
            :key-of="(_, i) => i"
            :columns="[{ key: 'when', class: 'whitespace-nowrap text-soft' }, { key: 'what' }, { key: 'who', class: 'whitespace-nowrap' }]"
          >
            <template #when="{ row }">{{ shortMoment(row.at, zone) }}</template>
            <template #what="{ row }"
              >{{ [changeWords(row.what), row.of].filter(Boolean).join(' ')
              }}<template v-if="row.before !== null || row.after !== null"
                >: <OldNew :old="short(row.before)" :now="short(row.after)" /></template
            ></template>
            <template #who="{ row }">{{ row.by ?? '—' }}</template>
          </DataTable>
        </section>
      </template>
    </div>
  </AppShell>
</template>
