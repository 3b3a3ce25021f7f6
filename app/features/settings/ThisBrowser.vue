<script setup lang="ts">
import { ref } from 'vue'
import { useNoticeWishes, tryNotice } from '../../composables/use-notice.ts'
import { thisBrowser as said } from '../../words/settings.ts'

/** How this browser says that something is over or waits; both are off until somebody wants them. */
const { sound, notice } = useNoticeWishes()
const refused = ref(false)
async function wantNotice(event: Event) {
  const wanted = (event.target as HTMLInputElement).checked
  refused.value = wanted && (await Notification.requestPermission()) !== 'granted'
  notice.value = wanted && !refused.value
}
</script>

<template>
  <label class="flex items-center gap-2"
    ><input v-model="sound" type="checkbox" class="size-4 accent-ink" @change="sound && tryNotice()" /> {{ said.sound }}</label
  >
  <label class="mt-1.5 flex items-center gap-2"
    ><input :checked="notice" type="checkbox" class="size-4 accent-ink" @change="wantNotice" /> {{ said.notice }}</label
  >
  <p v-if="refused" class="mt-1 text-xs text-ochre">
    {{ said.notAllowed }}
  </p>
  <p class="mt-1 text-xs text-soft">
    {{ said.note }}
  </p>
</template>
