<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { refDebounced } from '@vueuse/core'
import { useRouter } from 'vue-router'
import type { z } from 'zod'
import { calls } from '#contracts/http/calls.ts'
import type { routes } from '#contracts/http/routes.ts'
import type { CopyView, LockersView } from '#contracts/http/lockers.ts'
import AppButton from '../components/base/AppButton.vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../composables/use-api.ts'
import { usePages } from '../composables/use-pages.ts'
import { useNow } from '../composables/use-now.ts'
import CloseDialog from '../features/lockers/CloseDialog.vue'
import CompareDialog from '../features/lockers/CompareDialog.vue'
import CopyRow from '../features/lockers/CopyRow.vue'
import DestroyDialog from '../features/lockers/DestroyDialog.vue'
import KeepDialog from '../features/lockers/KeepDialog.vue'
import AppShell from '../features/shell/AppShell.vue'
import { useTickets } from '../stores/tickets.ts'
import { useSession } from '../stores/session.ts'
import { bytes, number } from '../words/say.ts'
import { common } from '../words/common.ts'
import { lockersPage as said } from '../words/lockers.ts'

/** What the shop keeps for customers: each copy with its counts, until when, and what of it is short. */
const session = useSession()
const tickets = useTickets()
const zone = computed(() => session.session?.shop.zone ?? 'UTC')
const now = useNow()
const wish = reactive({ find: '', isDestroyed: false })
const asked = refDebounced(
  computed(() => ({ ...wish })),
  200,
)
const { rows, page, sentence, more, refresh } = usePages<CopyView, LockersView, number>({
  of: [asked],
  fetch: (after, limit, signal) => api(calls.lockers, { body: { ...asked.value, after, limit }, signal }),
  rowsOf: ({ copies }) => copies,
  nextOf: ({ next }) => next,
})
const keeps = ref<CopyView | null>(null)
const compares = ref<CopyView | null>(null)
const shuts = ref<CopyView | null>(null)
const destroys = ref<CopyView | null>(null)
useHead({ title: said.tabTitle })

async function ask(work: Promise<unknown>) {
  keeps.value = compares.value = shuts.value = destroys.value = null
  sentence.value = ''
  try {
    await work
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
  await refresh()
}
const router = useRouter()
/** Looks into a copy, at the items of a kind where its count was pressed. */
const look = (copy: number, kind: string, beside: z.input<typeof routes.lookInto.body>['beside'] = null) =>
  ask(
    api(calls.lookInto, { params: { copy }, body: { beside } }).then(({ number: opened }) =>
      router.push({ path: `/tickets/${opened}`, query: kind ? { open: `${kind}.all` } : {} }),
    ),
  )
/** What stands in the ports is looked at when it is asked for. */
async function compare(copy: CopyView) {
  compares.value = copy
  await tickets.loadToday().catch(() => undefined)
}
</script>

<template>
  <AppShell>
    <header class="flex flex-wrap items-end gap-x-6 gap-y-2 border-b border-rule bg-panel px-6 py-3.5 max-md:px-3">
      <h1 class="text-xl">
        {{ said.lockers }}
        <span v-if="page" class="ml-1 font-body text-sm font-normal text-soft" data-testid="lockers-stored">{{
          wish.isDestroyed ? said.destroyedOnes(number(page.total)) : said.stored(number(page.total), bytes(page.storedBytes))
        }}</span>
      </h1>
      <form role="search" class="ml-auto flex flex-wrap items-center gap-3" @submit.prevent>
        <label class="w-72"
          ><span class="sr-only">{{ said.find }}</span
          ><input v-model="wish.find" data-find class="field" type="search" autocomplete="off" maxlength="64" :placeholder="said.find"
        /></label>
        <NuxtLink to="/whole" class="font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink">{{
          said.isWhole
        }}</NuxtLink>
        <label class="flex items-center gap-2"
          ><input v-model="wish.isDestroyed" type="checkbox" class="size-4 accent-ink" />{{ said.showDestroyed }}</label
        >
      </form>
    </header>
    <div class="max-w-6xl space-y-3 px-6 py-4 max-md:px-3">
      <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
      <p v-if="!page" class="text-soft">{{ common.looking }}</p>
      <p v-else-if="rows.length === 0" class="border border-rule bg-sheet p-6 text-soft">
        {{ wish.find || wish.isDestroyed ? said.noneAnswers : said.none }}
      </p>
      <CopyRow
        v-for="copy in rows"
        :key="copy.id"
        :copy="copy"
        :zone="zone"
        :now="now"
        @look="(kind) => look(copy.id, kind)"
        @compare="compare(copy)"
        @shut="shuts = copy"
        @keep="keeps = copy"
        @destroy="destroys = copy"
      />
      <AppButton v-if="page?.next !== null && page" look="quiet" @click="more">{{ common.more }}</AppButton>
    </div>
    <KeepDialog
      :copy="keeps"
      @close="keeps = null"
      @send="(keepUntil) => ask(api(calls.keepCopy, { params: { copy: keeps!.id }, body: { keepUntil } }))"
    />
    <CompareDialog
      :copy="compares"
      :copies="rows"
      :ports="tickets.today?.ports ?? []"
      @close="compares = null"
      @send="(beside) => look(compares!.id, '', beside)"
    />
    <CloseDialog
      :copy="shuts"
      @close="shuts = null"
      @send="(passphrase) => ask(api(calls.closeCopy, { params: { copy: shuts!.id }, body: { passphrase } }))"
    />
    <DestroyDialog
      :copy="destroys"
      @close="destroys = null"
      @send="(body) => ask(api(calls.destroyCopy, { params: { copy: destroys!.id }, body }))"
    />
  </AppShell>
</template>
