<script setup lang="ts">
import { computed } from 'vue'
import type { MediaPlan } from '#contracts/http/media.ts'
import DataTable from '../../../components/base/DataTable.vue'
import { bytes, number, range } from '../../../words/say.ts'
import { spaceBox } from '../../../words/stages.ts'
import { words } from '../../../words/words.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(spaceBox)

/** What is chosen against what is free on the new phone, how long it takes, and the ways out when it does not fit. */
const props = defineProps<{ plan: MediaPlan; model: string; canChoose: boolean; busy: string }>()
const emit = defineEmits<{ wayOut: [body: Pick<MediaPlan['waysOut'][number], 'way' | 'sinceYear' | 'kind'>] }>()
interface Line {
  readonly label: string
  readonly say: string
  readonly note?: string
  readonly isSum?: boolean
  readonly isBad?: boolean
}
const lines = computed<Line[]>(() => {
  const { chosenBytes, growsBytes, freeBytes, space, duration, measuredBytesPerSecond } = props.plan
  return [
    { label: said.chosenFiles, say: bytes(chosenBytes) },
    ...(growsBytes > 0 ? [{ label: said.conversionAddsAbout, say: bytes(growsBytes) }] : []),
    ...(freeBytes === null ? [] : [{ label: said.freeOn(props.model), say: bytes(freeBytes) }]),
    ...(space
      ? [
          { label: said.itNeedsToKeep, say: bytes(space.reserveBytes) },
          {
            label: space.fits ? said.freeAfterwards : said.missing,
            say: bytes(space.fits ? space.leftBytes : space.shortBytes),
            isSum: true,
            isBad: !space.fits,
          },
        ]
      : []),
    {
      label: said.carryingAndChecking,
      say: range(duration.lowS, duration.highS),
      ...(measuredBytesPerSecond ? { note: said.oldPhoneGave(bytes(measuredBytesPerSecond)) } : {}),
    },
  ]
})
const wayWords = (out: MediaPlan['waysOut'][number]) =>
  out.way === 'since-year'
    ? said.onlyFromOn(out.sinceYear ?? '')
    : out.way === 'without'
      ? said.withoutKind(words.many[out.kind!]!)
      : { 'no-large': said.withoutLarge, 'no-long': said.withoutLong, favourites: said.favouritesOnly }[out.way]
</script>

<template>
  <div class="mb-3" data-testid="space">
    <h3 class="mb-1 font-body text-xs font-semibold text-soft">{{ said.spaceAndTime }}</h3>
    <DataTable
      :label="said.spaceAndTime"
      :rows="lines"
      :key-of="(line) => line.label"
      :row-of="({ isSum, isBad }) => ({ isSum, class: isBad ? 'text-madder' : '' })"
      :columns="[
        { key: 'label', names: true },
        { key: 'say', isRight: true, class: 'whitespace-nowrap' },
      ]"
    >
      <template #label="{ row: line }"
        >{{ line.label }}<span v-if="line.note" class="block text-xs text-soft">{{ line.note }}</span></template
      >
      <template #say="{ row: line }">{{ line.say }}</template>
    </DataTable>
    <p v-if="plan.conversions" class="mt-1 text-xs text-soft">
      {{
        said.converted(
          plan.conversions.items,
          bytes(plan.conversions.growsBytes),
          range(plan.conversions.seconds, plan.conversions.seconds),
          plan.conversions.isMeasured,
        )
      }}
    </p>
    <p v-if="plan.duration.restsS > 0" class="mt-1 text-xs text-soft">{{ said.restsForHeat }}</p>
    <div v-if="plan.waysOut.length > 0" class="mt-2 border-l-4 border-madder bg-madder-pale px-2.5 py-2" data-testid="ways-out">
      <p class="mb-1.5 font-semibold text-madder">{{ said.itDoesNotFit }}</p>
      <ul class="space-y-1.5">
        <li v-for="out in plan.waysOut" :key="out.way + out.kind">
          <button
            type="button"
            class="w-full border border-rule bg-sheet px-2 py-1 text-left hover:bg-row disabled:opacity-50"
            :disabled="!canChoose || busy === 'way-out'"
            @click="emit('wayOut', { way: out.way, sinceYear: out.sinceYear, kind: out.kind })"
          >
            <strong class="block">{{ wayWords(out) }}</strong><span class="text-xs text-soft">{{
              said.wayOut(number(out.items), bytes(out.bytes), out.fits)
            }}</span>
          </button>
        </li>
      </ul>
    </div>
  </div>
</template>
