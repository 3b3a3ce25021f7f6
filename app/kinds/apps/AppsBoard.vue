<script setup lang="ts">
import { computed, ref } from 'vue'
import { EyeOff } from '@lucide/vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { AppRow, CandidatesView } from '#contracts/http/media.ts'
import { isInstalledByHand } from '#core/kinds/apps/counterpart.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import DataTable from '../../components/base/DataTable.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { number, price, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { useShown } from '../../features/ticket/use-shown.ts'
import { useApps } from './use-apps.ts'
import { common } from '../../words/common.ts'
import { appsBoard as said } from './words.ts'

/** Every app of the old phone: what becomes of it, what stands in for it, and what is tied to the old phone. */
const props = defineProps<{ ticket: TicketView; stamp: string }>()
const emit = defineEmits<{ show: [] }>()
const { view, sentence, candidates, choose, moved } = useApps(
  computed(() => props.ticket.number),
  computed(() => [props.stamp, props.ticket.showingUntil, props.ticket.tied.open]),
)
const canChoose = computed(() => !props.ticket.run && !props.ticket.signedAt)
const isShowing = useShown(
  computed(() => props.ticket.showingUntil),
  computed(() => view.value?.isShowing ?? false),
)
const sorted = computed(() =>
  [...(view.value?.rows ?? [])].sort((a, b) => Number(b.tied !== null) - Number(a.tied !== null) || a.position - b.position),
)
const asked = ref<{ row: AppRow; view: CandidatesView } | null>(null)
async function ask(row: AppRow) {
  if (!isShowing.value) return emit('show')
  asked.value = { row, view: await candidates(row.key) }
}
async function pick(id: string | null) {
  const { key } = asked.value!.row
  asked.value = null
  await choose(key, id)
}
const toldReasons = ['app-data-stays', 'no-counterpart', 'web-page-only', 'to-install-by-hand']
const candidatesOf = ({ candidates: n }: AppRow) => said.manyCandidates(number(n), n)
const state = (row: AppRow) =>
  isInstalledByHand(row.how) && row.fate === 'pending'
    ? said.onInstallList
    : isInstalledByHand(row.how) && row.fate === 'changed'
      ? said.installed
      : (words.filters[row.fate] ?? row.fate).toLowerCase()
</script>

<template>
  <section v-if="view && view.rows.length > 0" class="mt-5" aria-labelledby="apps-head" data-testid="apps">
    <div class="mb-2 flex flex-wrap items-baseline justify-between gap-2">
      <h2 id="apps-head" class="text-[0.95rem]">
        {{ said.appByApp }}
        <span class="font-body text-xs font-normal text-soft">{{
          said.sums(number(view.counts.toInstall), number(view.counts.installed), number(view.counts.tied))
        }}</span>
      </h2>
      <LinkButton v-if="!isShowing" class="flex items-center gap-1.5 text-xs" @click="emit('show')"
        ><EyeOff :size="13" aria-hidden="true" />{{ common.namesAreHiddenShowButton }}</LinkButton
      >
    </div>
    <SentenceBox v-if="sentence" tone="bad" class="mb-2">{{ sentence }}</SentenceBox>
    <SentenceBox v-if="view.counts.tiedOpen > 0" tone="note" class="mb-2">{{ said.tiedToOldPhone(view.counts.tiedOpen) }}</SentenceBox>
    <div class="relative overflow-x-auto border border-rule bg-sheet">
      <DataTable
        class="border-0 text-[0.8rem]"
        :label="said.apps"
        :rows="sorted"
        :key-of="(row) => row.key"
        :row-of="(row) => ({ 'data-how': row.how, 'data-fate': row.fate })"
        :columns="[
          { key: 'app', head: common.app, names: true },
          { key: 'use', head: said.use, class: 'whitespace-nowrap' },
          { key: 'becomes', head: said.whatBecomes(ticket.new.model) },
          { key: 'state', head: common.state, class: 'whitespace-nowrap' },
          { key: 'tied', head: said.tiedHead },
        ]"
      >
        <template #app="{ row }">
          <strong v-if="row.name">{{ row.name }}</strong><span
            v-else
            class="inline-block h-2.5 rounded-sm bg-mask"
            :style="{ width: `${56 + ((row.position * 37) % 60)}px` }"
            ><span class="sr-only">{{ said.hiddenNameNo(row.position) }}</span></span
          >
        </template>
        <template #use="{ row }">{{ words.uses[row.use] ?? row.use }}</template>
        <template #becomes="{ row }">
          <span>{{ words.hows[row.how] }}{{ row.counterpart ? ':' : '' }}</span
          ><strong v-if="row.counterpart" class="ml-1">{{ row.counterpart }}</strong
          ><span v-if="row.isShops" class="ml-1 text-xs text-soft">{{ said.shopsChoice }}</span
          ><span v-for="note in row.notes" :key="note" class="block text-xs text-ochre">{{ words.appNotes[note] }}</span
          ><span v-for="code in row.reasons.filter((r) => toldReasons.includes(r))" :key="code" class="block text-xs text-soft">{{
            reason(code)
          }}</span>
          <LinkButton
            v-if="canChoose && row.candidates > 0"
            class="block text-xs"
            :aria-label="said.chooseAnother(candidatesOf(row), row.position)"
            @click="ask(row)"
            >{{ candidatesOf(row) }}</LinkButton
          >
        </template>
        <template #state="{ row }">{{ state(row) }}</template>
        <template #tied="{ row }">
          <label v-if="row.tied" class="flex items-center gap-1.5 whitespace-nowrap"
            ><input
              type="checkbox"
              class="accent-ink"
              :checked="row.isMoved"
              @change="moved(row.key, ($event.target as HTMLInputElement).checked)"
            />{{ words.tied[row.tied] }}: {{ row.isMoved ? said.movedByHand : said.toBeMoved }}</label
          ><span v-else class="text-soft">—</span>
        </template>
      </DataTable>
    </div>
    <AppDialog :open="asked !== null" :title="said.whatStands" wide @close="asked = null">
      <template v-if="asked">
        <p class="mb-2 text-soft">
          {{ said.standsInFor }} <strong class="text-ink">{{ asked.row.name }}</strong>{{ said.shopRemembers }}
        </p>
        <ul class="max-h-80 overflow-y-auto border border-rule bg-sheet" :aria-label="said.candidates">
          <li
            v-for="c in asked.view.candidates"
            :key="c.id"
            class="flex items-center justify-between gap-3 border-b border-rule px-3 py-1.5 last:border-0"
          >
            <span
              ><strong>{{ c.name }}</strong
              >{{ ' ' }} <span class="text-soft">{{ said.candidate(c.maker, price(c.priceCents), c.canInstall) }}</span></span
            >
            <AppButton v-if="c.id !== asked.view.chosen" look="quiet" @click="pick(c.id)">{{ said.takeThisOne }}</AppButton><span
              v-else
              class="text-xs font-semibold text-verdigris"
              >{{ said.chosenNow }}</span
            >
          </li>
        </ul>
        <div class="mt-3">
          <AppButton look="quiet" @click="pick(null)">{{ said.noneOfThemStands }}</AppButton>
        </div>
      </template>
    </AppDialog>
  </section>
</template>
