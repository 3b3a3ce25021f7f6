<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { routes } from '#contracts/http/routes.ts'
import type { CopyView, LockersView } from '#contracts/http/lockers.ts'
import SentenceBox from '../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../composables/use-api.ts'
import { useNow } from '../composables/use-now.ts'
import CloseDialog from '../features/lockers/CloseDialog.vue'
import CopyRow from '../features/lockers/CopyRow.vue'
import DestroyDialog from '../features/lockers/DestroyDialog.vue'
import KeepDialog from '../features/lockers/KeepDialog.vue'
import AppShell from '../features/shell/AppShell.vue'
import { useSession } from '../stores/session.ts'
import { bytes, number } from '../words/say.ts'
import { common } from '../words/common.ts'
import { lockersPage as said } from '../words/lockers.ts'

/** What the shop keeps for customers: each copy with its counts, until when, and what of it is short. */
const session = useSession()
const zone = computed(() => session.session?.shop.zone ?? 'UTC')
const now = useNow()
const view = ref<LockersView | null>(null)
const sentence = ref('')
const keeps = ref<CopyView | null>(null)
const shuts = ref<CopyView | null>(null)
const destroys = ref<CopyView | null>(null)
useHead({ title: said.tabTitle })

async function load() {
  try {
    view.value = await api(routes.lockers)
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
}
onMounted(load)
async function ask(work: Promise<unknown>) {
  keeps.value = shuts.value = destroys.value = null
  sentence.value = ''
  try {
    await work
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
  await load()
}
const router = useRouter()
/** Looks into a copy, at the items of a kind where its count was pressed. */
const look = (copy: number, kind: string) =>
  ask(
    api(routes.lookInto, { params: { copy } }).then(({ number: opened }) =>
      router.push({ path: `/tickets/${opened}`, query: kind ? { open: `${kind}.all` } : {} }),
    ),
  )
const kept = computed(() => view.value?.copies.filter(({ destroyed }) => !destroyed) ?? [])
const gone = computed(() => view.value?.copies.filter(({ destroyed }) => destroyed) ?? [])
</script>

<template>
  <AppShell>
    <header class="border-b border-rule bg-panel px-6 py-3.5 max-md:px-3">
      <h1 class="text-xl">
        {{ said.lockers }}
        <span v-if="view" class="ml-1 font-body text-sm font-normal text-soft" data-testid="lockers-stored">{{
          said.stored(number(kept.length), bytes(view.storedBytes))
        }}</span>
      </h1>
    </header>
    <div class="max-w-6xl space-y-3 px-6 py-4 max-md:px-3">
      <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
      <p v-if="!view" class="text-soft">{{ common.looking }}</p>
      <p v-else-if="kept.length === 0" class="border border-rule bg-sheet p-6 text-soft">{{ said.none }}</p>
      <CopyRow
        v-for="copy in kept"
        :key="copy.id"
        :copy="copy"
        :zone="zone"
        :now="now"
        @look="(kind) => look(copy.id, kind)"
        @shut="shuts = copy"
        @keep="keeps = copy"
        @destroy="destroys = copy"
      />
      <section v-if="gone.length > 0" aria-labelledby="gone">
        <h2 id="gone" class="mt-6 mb-2 text-[0.95rem]">{{ said.gone }}</h2>
        <div class="space-y-3">
          <CopyRow v-for="copy in gone" :key="copy.id" :copy="copy" :zone="zone" :now="now" />
        </div>
      </section>
    </div>
    <KeepDialog
      :copy="keeps"
      @close="keeps = null"
      @send="(keepUntil) => ask(api(routes.keepCopy, { params: { copy: keeps!.id }, body: { keepUntil } }))"
    />
    <CloseDialog
      :copy="shuts"
      @close="shuts = null"
      @send="(passphrase) => ask(api(routes.closeCopy, { params: { copy: shuts!.id }, body: { passphrase } }))"
    />
    <DestroyDialog
      :copy="destroys"
      @close="destroys = null"
      @send="(body) => ask(api(routes.destroyCopy, { params: { copy: destroys!.id }, body }))"
    />
  </AppShell>
</template>
