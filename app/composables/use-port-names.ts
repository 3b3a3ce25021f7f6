import { useSession } from '../stores/session.ts'

/** What the shop calls a port; empty where it has no name of its own. */
export function usePortNames(): (port: number) => string {
  const session = useSession()
  return (port) => session.session?.shop.portNames[port] ?? ''
}
