import { computed } from 'vue'
import type { TodayView } from '#contracts/http/ticket.ts'
import { useSession } from '../stores/session.ts'
import { common } from '../words/common.ts'

type Port = TodayView['ports'][number]

/** The shop's benches. Where there is one alone, nobody needs its name. */
export function useStations() {
  const session = useSession()
  const stations = computed(() => session.session?.stations ?? [])
  const nameOf = (code: string | null) => stations.value.find((station) => station.code === code)?.name || (code ?? '')
  return {
    stations,
    nameOf,
    /** The ports a bench each, in the shop's order; name and heading are empty where there is one alone. */
    byStation(ports: readonly Port[]): { code: string; name: string; heading: string; ports: Port[] }[] {
      const codes = [...new Set(ports.map(({ station }) => station))]
      return codes.map((code) => ({
        code,
        name: codes.length > 1 ? nameOf(code) : '',
        heading: codes.length > 1 ? common.benchAt(nameOf(code)) : '',
        ports: ports.filter(({ station }) => station === code),
      }))
    },
    /** What is said of benches that do not answer; empty when all do. */
    unseenLine(today: Pick<TodayView, 'isBenchSeen' | 'unseenStations'> | null): string {
      if (!today || (today.isBenchSeen && today.unseenStations.length === 0)) return ''
      return today.isBenchSeen ? common.benchesUnseen(today.unseenStations.map(nameOf).join(', ')) : common.noPortsAreSeen
    },
  }
}
