<script setup lang="ts">
import { Archive, BookOpenText, Cable, LockKeyhole, LogOut, NotebookPen, Settings, Smartphone, TicketCheck } from '@lucide/vue'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useEventListener } from '@vueuse/core'
import { useFocusHome } from '../../composables/use-focus-home.ts'
import { useNotice } from '../../composables/use-notice.ts'
import { useLive } from '../../composables/use-live.ts'
import { useEvents } from '../../composables/use-events.ts'
import { useSession } from '../../stores/session.ts'
import KeyList from './KeyList.vue'
import SessionList from './SessionList.vue'
import { common } from '../../words/common.ts'
import { appShell as said } from '../../words/shell.ts'

const store = useSession()
const route = useRoute()
const router = useRouter()
const areKeysOpen = ref(false)
const isAccountOpen = ref(false)
const { isConnected } = useEvents(
  () => false,
  async () => undefined,
)
onMounted(() => void store.load().catch(() => undefined))

useFocusHome()
const progress = useNotice()
// what runs is said first, on whichever page one is
useHead({ titleTemplate: computed(() => (progress.value ? `${progress.value} · %s` : '%s')) })
const { said: spoken, say } = useLive()
const lostLine = said.lost
watch(isConnected, (is) => say(is ? said.answersAgain : lostLine, { now: true }))

// keys that work wherever no field is being written in
useEventListener('keydown', (event: KeyboardEvent) => {
  const isTyping = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)
  if (isTyping || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[role="dialog"]')) return
  if (event.key === '?') areKeysOpen.value = true
  else if (event.key === '/') void find()
  else if (event.key === 'n') toNext()
  else return
  event.preventDefault()
})

const toNext = () => document.querySelector<HTMLElement>('[data-next]:not(:disabled)')?.focus()
async function find() {
  if (route.path !== '/') await router.push('/')
  setTimeout(() => document.querySelector<HTMLElement>('input[type="search"][data-find]')?.focus(), route.path === '/' ? 0 : 60)
}

async function leave() {
  await store.signOut()
  await router.push('/sign-in')
}
const places = [
  { to: '/', name: common.today, icon: TicketCheck },
  { to: '/book-in', name: common.bookIn, icon: NotebookPen },
  { to: '/bench', name: common.bench, icon: Cable },
  { to: '/guide', name: common.guide, icon: BookOpenText },
  { to: '/lockers', name: said.lockers, icon: LockKeyhole },
  { to: '/past', name: said.past, icon: Archive },
  { to: '/practice', name: said.practice, icon: Smartphone },
  { to: '/settings', name: common.settings, icon: Settings },
]
</script>

<template>
  <div class="flex h-screen overflow-hidden max-md:flex-col-reverse">
    <button
      v-if="route.path.startsWith('/tickets/')"
      type="button"
      class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2"
      @click="toNext"
    >
      {{ said.skipToNext }}
    </button>
    <a href="#main" class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">{{ said.skipToContent }}</a>
    <nav
      class="no-print flex w-16 shrink-0 flex-col items-center overflow-y-auto bg-ink text-sheet max-md:w-full max-md:flex-row max-md:px-1.5 max-md:py-1"
      :aria-label="said.main"
    >
      <div class="py-4 max-md:hidden" aria-hidden="true"><img src="/mark.svg" alt="" width="32" height="32" /></div>
      <ul class="w-full max-md:flex max-md:w-auto">
        <li v-for="place in places.filter((p) => p.to !== '/practice' || store.session?.hasPractice)" :key="place.to">
          <NuxtLink
            :to="place.to"
            class="mx-1 my-0.5 flex flex-col items-center gap-1 rounded-[3px] py-2 max-md:mx-0 max-md:size-9 max-md:justify-center text-[0.7rem] hover:bg-ink-lit"
            :class="{ 'bg-ink-lit': route.path === place.to }"
            :aria-current="route.path === place.to ? 'page' : undefined"
          >
            <component :is="place.icon" :size="18" aria-hidden="true" /><span class="max-md:sr-only">{{ place.name }}</span>
          </NuxtLink>
        </li>
      </ul>
      <div class="mt-auto flex flex-col items-center gap-2 pb-3 max-md:mt-0 max-md:ml-auto max-md:flex-row max-md:gap-0.5 max-md:pb-0">
        <button type="button" class="rounded-[3px] p-1.5 hover:bg-ink-lit" :aria-label="common.keys" @click="areKeysOpen = true">
          <kbd class="font-body text-sm">?</kbd>
        </button>
        <button type="button" class="rounded-[3px] p-1.5 hover:bg-ink-lit" :aria-label="common.signOut" @click="leave">
          <LogOut :size="16" aria-hidden="true" />
        </button>
        <button
          type="button"
          class="grid size-8 place-items-center rounded-full border border-sheet/60 text-[0.7rem] hover:bg-ink-lit"
          :title="store.session?.name"
          :aria-label="said.whereIsSignedIn(store.session?.initials ?? '', store.session?.name ?? 'you')"
          @click="isAccountOpen = true"
        >
          {{ store.session?.initials }}
        </button>
      </div>
    </nav>
    <div class="flex min-h-0 min-w-0 flex-1 flex-col">
      <p v-if="!isConnected" class="bg-ochre-pale px-6 py-1.5 text-sm font-medium text-ochre">{{ lostLine }}</p>
      <main id="main" class="relative min-h-0 flex-1 overflow-y-auto" tabindex="-1"><slot /></main>
    </div>
    <p class="sr-only" role="status" aria-live="polite" data-testid="live">{{ spoken }}</p>
    <SessionList :open="isAccountOpen" @close="isAccountOpen = false" @leave="leave" />
    <KeyList :open="areKeysOpen" @close="areKeysOpen = false" />
  </div>
</template>
