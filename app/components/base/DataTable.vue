<script setup lang="ts" generic="Row">
/**
 * A table: a head where its columns have one, and a line a row. Each column is a slot of its name; the first that
 * `names` the row is its head. Long lists are a VirtualList’s; the ledger is a grid of its own.
 */
export interface Column {
  readonly key: string
  /** Without heads there is no head line. */
  readonly head?: string
  /** Read aloud, not shown. */
  readonly isHeadHidden?: boolean
  readonly isRight?: boolean
  /** Its cell is the head of its row. */
  readonly names?: boolean
  readonly class?: string
}
defineProps<{
  columns: readonly Column[]
  rows: readonly Row[]
  keyOf: (row: Row, index: number) => string | number
  label?: string
  caption?: string
  /** The head stays in view while the rows scroll. */
  isHeadStuck?: boolean
  /** Class and attributes of a row; `isSum`: a line above it, in bold. */
  rowOf?: (row: Row) => { readonly isSum?: boolean; readonly class?: string; readonly [attribute: string]: unknown }
}>()
const cell = 'px-2.5 py-1'
const attributesOf = ({ isSum: _, class: __, ...rest }: { isSum?: boolean; class?: string } = {}) => rest
</script>

<template>
  <table class="w-full border border-rule bg-sheet text-left" :aria-label="label">
    <caption v-if="caption" class="py-1 text-left text-xs font-semibold text-soft">
      {{
        caption
      }}
    </caption>
    <thead v-if="columns.some(({ head }) => head)" class="text-xs text-soft" :class="{ 'sticky top-0 bg-sheet': isHeadStuck }">
      <tr class="border-b border-ink">
        <th
          v-for="c in columns"
          :key="c.key"
          scope="col"
          class="font-normal"
          :class="[cell, c.isRight ? 'text-right' : 'text-left', c.class]"
        >
          <span :class="{ 'sr-only': c.isHeadHidden }">{{ c.head }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="(row, index) in rows"
        :key="keyOf(row, index)"
        v-bind="attributesOf(rowOf?.(row))"
        class="border-b border-rule align-baseline last:border-0"
        :class="[rowOf?.(row).class, { 'border-t border-t-ink font-bold': rowOf?.(row).isSum }]"
      >
        <component
          :is="c.names ? 'th' : 'td'"
          v-for="c in columns"
          :key="c.key"
          :scope="c.names ? 'row' : undefined"
          :class="[cell, c.isRight ? 'text-right' : 'text-left', { 'font-normal': c.names && !rowOf?.(row).isSum }, c.class]"
        >
          <slot :name="c.key" :row="row" :index="index" />
        </component>
      </tr>
    </tbody>
    <tfoot v-if="$slots.foot">
      <slot name="foot" />
    </tfoot>
  </table>
</template>
