import { onBeforeUnmount, onMounted } from 'vue'

/** A page that is opened by itself begins at its top, as every page does. */
let isFirst = true

/**
 * Nothing drops the focus: when what has it goes, or can't be pressed any more, the focus goes to the nearest part of
 * the page that still stands and can take it; at last to the content itself. So does a new page.
 */
export function useFocusHome() {
  let trail: HTMLElement[] = []
  const remember = ({ target }: FocusEvent) => {
    if (!(target instanceof HTMLElement)) return
    trail = []
    for (let at: HTMLElement | null = target; at && at !== document.body; at = at.parentElement) trail.push(at)
  }
  const isLost = () => document.activeElement === document.body || document.activeElement === null
  const home = () => document.getElementById('main')
  function bring() {
    if (!isLost() || document.querySelector('[role="dialog"]')) return
    const nearest = trail.slice(1).find((element) => element.isConnected && element.hasAttribute('tabindex'))
    ;(nearest ?? home())?.focus({ preventScroll: true })
  }
  let observer: MutationObserver | undefined
  function look() {
    const [had] = trail
    if (!had || !isLost()) return
    const isGone = !had.isConnected || (had instanceof HTMLButtonElement && had.disabled)
    // a dialog or a list that takes its place asks for the focus itself, a moment later
    if (isGone) setTimeout(bring, 60)
  }
  onMounted(() => {
    document.addEventListener('focusin', remember)
    observer = new MutationObserver(look)
    observer.observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] })
    if (!isFirst) setTimeout(bring, 0)
    isFirst = false
  })
  onBeforeUnmount(() => {
    document.removeEventListener('focusin', remember)
    observer?.disconnect()
  })
}
