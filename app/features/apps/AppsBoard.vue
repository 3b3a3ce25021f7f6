<script setup lang="ts">
import { computed, ref, toRef } from 'vue'
import { EyeOff } from '@lucide/vue'
import type { AppRow, CandidatesView } from '#contracts/http/media.ts'
import { isInstalledByHand } from '#core/kinds/apps/counterpart.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { number, price, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { useShown } from '../ticket/use-shown.ts'
import { useApps } from './use-apps.ts'

/** Every app of the old phone: what becomes of it, what stands in for it, and what is tied to the old phone. */
const props = defineProps<{ ticket: string; stamp: unknown; canChoose: boolean; model: string; showingUntil: string | null }>()
const emit = defineEmits<{ show: [] }>()
const { view, sentence, candidates, choose, moved } = useApps(toRef(props, 'ticket'), toRef(props, 'stamp'))
const isShowing = useShown(
  toRef(props, 'showingUntil'),
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
const state = (row: AppRow) =>
  isInstalledByHand(row.how) && row.fate === 'pending'
    ? 'on the install list'
    : isInstalledByHand(row.how) && row.fate === 'changed'
      ? 'installed'
      : (words.filters[row.fate] ?? row.fate).toLowerCase()
</script>

<template>
  <section v-if="view && view.rows.length > 0" class="mt-5" aria-labelledby="apps-head" data-testid="apps">
    <div class="mb-2 flex flex-wrap items-baseline justify-between gap-2">
      <h2 id="apps-head" class="text-[0.95rem]">
        App by app
        <span class="font-body text-xs font-normal text-soft"
          >{{ number(view.counts.toInstall) }} on the install list, {{ number(view.counts.installed) }} installed,
          {{ number(view.counts.tied) }} tied to the old phone</span
        >
      </h2>
      <button
        v-if="!isShowing"
        type="button"
        class="flex items-center gap-1.5 text-xs font-semibold underline decoration-rule underline-offset-2"
        @click="emit('show')"
      >
        <EyeOff :size="13" aria-hidden="true" />Names are hidden. Show them…
      </button>
    </div>
    <SentenceBox v-if="sentence" tone="bad" class="mb-2">{{ sentence }}</SentenceBox>
    <SentenceBox v-if="view.counts.tiedOpen > 0" tone="note" class="mb-2"
      >{{ number(view.counts.tiedOpen) }} {{ view.counts.tiedOpen === 1 ? 'app is' : 'apps are' }} tied to the old phone: the customer moves
      {{ view.counts.tiedOpen === 1 ? 'it' : 'them' }} by hand before it is wiped.</SentenceBox
    >
    <div class="relative overflow-x-auto border border-rule bg-sheet">
      <table class="w-full text-[0.8rem]" aria-label="Apps">
        <thead class="text-xs text-soft">
          <tr class="border-b border-ink text-left">
            <th scope="col" class="px-2.5 py-1 font-normal">App</th>
            <th scope="col" class="px-2.5 font-normal">Use</th>
            <th scope="col" class="px-2.5 font-normal">What becomes of it on the {{ model }}</th>
            <th scope="col" class="px-2.5 font-normal">State</th>
            <th scope="col" class="px-2.5 font-normal">Tied to the old phone</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in sorted" :key="row.key" class="border-b border-rule last:border-0" :data-how="row.how" :data-fate="row.fate">
            <th scope="row" class="px-2.5 py-1 text-left font-semibold">
              <template v-if="row.name">{{ row.name }}</template><span
                v-else
                class="inline-block h-2.5 rounded-sm bg-mask"
                :style="{ width: `${56 + ((row.position * 37) % 60)}px` }"
                ><span class="sr-only">hidden name, no. {{ row.position }}</span></span
              >
            </th>
            <td class="px-2.5 whitespace-nowrap">{{ words.uses[row.use] ?? row.use }}</td>
            <td class="px-2.5">
              <span>{{ words.hows[row.how] }}{{ row.counterpart ? ':' : '' }}</span
              ><strong v-if="row.counterpart" class="ml-1">{{ row.counterpart }}</strong
              ><span v-if="row.isShops" class="ml-1 text-xs text-soft">(the shop’s choice)</span
              ><span v-for="note in row.notes" :key="note" class="block text-xs text-ochre">{{ words.appNotes[note] }}</span
              ><span
                v-for="code in row.reasons.filter((r) =>
                  ['app-data-stays', 'no-counterpart', 'web-page-only', 'to-install-by-hand'].includes(r),
                )"
                :key="code"
                class="block text-xs text-soft"
                >{{ reason(code) }}</span
              >
              <button
                v-if="canChoose && row.candidates > 0"
                type="button"
                class="block text-xs font-semibold underline decoration-rule underline-offset-2"
                :aria-label="`Choose another counterpart for app ${row.position}`"
                @click="ask(row)"
              >
                {{ number(row.candidates) }} {{ row.candidates === 1 ? 'candidate' : 'candidates' }}…
              </button>
            </td>
            <td class="px-2.5 whitespace-nowrap">{{ state(row) }}</td>
            <td class="px-2.5">
              <label v-if="row.tied" class="flex items-center gap-1.5 whitespace-nowrap"
                ><input
                  type="checkbox"
                  class="accent-ink"
                  :checked="row.isMoved"
                  @change="moved(row.key, ($event.target as HTMLInputElement).checked)"
                />{{ words.tied[row.tied] }}: {{ row.isMoved ? 'moved by hand' : 'to be moved by hand' }}</label
              ><span v-else class="text-soft">—</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <AppDialog :open="asked !== null" title="What stands in for it" wide @close="asked = null">
      <template v-if="asked">
        <p class="mb-2 text-soft">
          For <strong class="text-ink">{{ asked.row.name }}</strong>. The shop remembers what you choose, for every later ticket.
        </p>
        <ul class="max-h-80 overflow-y-auto border border-rule bg-sheet" aria-label="Candidates">
          <li
            v-for="c in asked.view.candidates"
            :key="c.id"
            class="flex items-center justify-between gap-3 border-b border-rule px-3 py-1.5 last:border-0"
          >
            <span
              ><strong>{{ c.name }}</strong
              >{{ ' ' }}
              <span class="text-soft"
                >by {{ c.maker }}, {{ price(c.priceCents) }}{{ c.canInstall ? '' : ', can’t be installed here' }}</span
              ></span
            >
            <AppButton v-if="c.id !== asked.view.chosen" look="quiet" @click="pick(c.id)">Take this one</AppButton
            ><span v-else class="text-xs font-semibold text-verdigris">chosen now</span>
          </li>
        </ul>
        <div class="mt-3"><AppButton look="quiet" @click="pick(null)">None of them stands in for it</AppButton></div>
      </template>
    </AppDialog>
  </section>
</template>
