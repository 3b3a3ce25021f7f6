import { computed, ref, watch, type Ref } from 'vue'
import type { Stage, TicketView } from '#contracts/http/ticket.ts'
import type { Opened } from './opened.ts'

/** The kind whose account and panel are shown: what is open, the one that was pressed, else the first that differs or waits. */
export function useShownRow(ticket: Ref<TicketView | undefined>, stage: Ref<Stage>, opened: Ref<Opened | null>) {
  const picked = ref<string | null>(null)
  /** The one shown last: what was chosen of it never puts another under the pointer. */
  const last = ref<string | null>(null)
  const row = computed(() => {
    const rows = ticket.value?.ledger ?? []
    const ofKind = (kind: string | null | undefined) => rows.find((r) => r.kind === kind)
    return (
      ofKind(opened.value?.kind) ??
      ofKind(picked.value) ??
      (stage.value === 'choose' ? ofKind(last.value) : undefined) ??
      rows.find((r) => r.verdict === 'differs') ??
      rows.find((r) => r.fates.pending > 0) ??
      rows[0]
    )
  })
  watch(
    () => row.value?.kind,
    (kind) => (last.value = kind ?? null),
  )
  // what was open stays the kind that is shown
  watch(
    () => opened.value?.kind,
    (kind) => kind && (picked.value = kind),
    { immediate: true },
  )
  return { row, pick: (kind: string) => (picked.value = kind) }
}
