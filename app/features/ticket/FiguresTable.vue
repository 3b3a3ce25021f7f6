<script setup lang="ts">
import type { GroupedBy } from './opened.ts'
import { computed } from 'vue'
import type { Figure, LedgerRow } from '#contracts/http/ledger.ts'
import DataTable from '../../components/base/DataTable.vue'
import FigureButton from '../../components/base/FigureButton.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import { bytes, length, number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { shownFigure } from './figures.ts'
import { common } from '../../words/common.ts'
import { figuresTable } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(figuresTable)

/** Second figures of a kind beside its count: conversations, attachments, occurrences; each opens. */
const props = defineProps<{ row: LedgerRow; canOpen: boolean }>()
const emit = defineEmits<{ groups: [side: 'old' | 'new', by: GroupedBy]; sum: [side: 'old' | 'new', facet: string] }>()

interface Beside {
  readonly key: string
  readonly label: string
  readonly of: Readonly<Record<'old' | 'first' | 'last', number | undefined>>
  readonly opens: Figure['opens']
  /** What the phone's own list says, where it says it. */
  readonly own: Readonly<Record<'old' | 'last', number | undefined>>
}
const figures = computed<Beside[]>(() => {
  const { also, kind } = props.row
  const rows = also.filter(({ side, code }) => side === 'old' && (code === 'groups' || code === 'sum'))
  const groups = words.groups[kind]
  return rows.flatMap(({ code, of, opens }): Beside[] => {
    if (code === 'groups' && !groups) return []
    const at = (side: Figure['side']) => also.find((figure) => figure.code === code && figure.of === of && figure.side === side)?.n
    const shown = code === 'groups' ? groups!.many : of
    return [
      {
        key: of,
        label: code === 'groups' ? groups!.title : (words.sums[of] ?? of),
        of: { old: at('old'), first: at('first'), last: at('last') },
        opens,
        own: { old: shownFigure(props.row, 'old', shown), last: shownFigure(props.row, 'new', shown) },
      },
    ]
  })
})
const say = (key: string, n: number) => (key === 'fileBytes' ? bytes(n) : key === 'seconds' ? length(n) : number(n))
const columns = [
  { key: 'old', head: common.oldPhone, side: 'old' },
  { key: 'first', head: said.newFirst, side: 'new' },
  { key: 'last', head: said.newLast, side: 'new' },
] as const
const canOpenColumn = (key: 'old' | 'first' | 'last') => props.canOpen && (key !== 'first' || props.row.new.last === null)
/** There is something of that column to open. */
const hasColumn = (key: 'old' | 'first' | 'last') => figures.value.some((figure) => figure.of[key] !== undefined)
const own = (figure: Beside, key: string) => (key === 'first' ? undefined : figure.own[key as 'old' | 'last'])
</script>

<template>
  <div v-if="figures.length > 0" class="mt-4">
    <DataTable
      class="text-[0.8rem]"
      :label="said.secondFigures"
      :caption="said.besideCount"
      :rows="[...figures, null]"
      :key-of="(f) => f?.key ?? 'month'"
      :row-of="(f) => (f ? { 'data-figure': f.key } : {})"
      :columns="[{ key: 'figure', head: said.figure, names: true }, ...columns.map((c) => ({ ...c, isRight: true }))]"
    >
      <template #figure="{ row: f }">{{ f ? f.label : common.byMonth }}</template>
      <template v-for="c in columns" :key="c.key" #[c.key]="{ row: f }">
        <template v-if="!f"
          ><LinkButton
            v-if="canOpenColumn(c.key) && hasColumn(c.key)"
            :strong="false"
            :aria-label="said.openByMonth(c.head.toLowerCase())"
            @click="emit('groups', c.side, 'month')"
            >{{ said.open }}</LinkButton
          ><template v-else>—</template></template
        >
        <template v-else-if="f.of[c.key] === undefined">—</template>
        <template v-else>
          <FigureButton
            :n="f.of[c.key]!"
            :can-open="f.opens !== null && canOpenColumn(c.key)"
            :data-column="c.key"
            @open="f.opens!.name === null ? emit('groups', c.side, 'group') : emit('sum', c.side, f.opens!.name)"
            >{{ say(f.key, f.of[c.key]!) }}</FigureButton
          >
          <span v-if="own(f, c.key) !== undefined && own(f, c.key) !== f.of[c.key]" class="block text-xs text-soft">{{
            said.itShows(number(own(f, c.key)!))
          }}</span>
        </template>
      </template>
    </DataTable>
  </div>
</template>
