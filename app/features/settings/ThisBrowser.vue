<script setup lang="ts">
import { ref } from 'vue'
import { useNoticeWishes, tryNotice } from '../../composables/use-notice.ts'

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
    ><input v-model="sound" type="checkbox" class="size-4 accent-ink" @change="sound && tryNotice()" /> A quiet sound when a ticket is over
    or waits for a hand</label
  >
  <label class="mt-1.5 flex items-center gap-2"
    ><input :checked="notice" type="checkbox" class="size-4 accent-ink" @change="wantNotice" /> A notice of the computer’s own, also while
    another window is in front</label
  >
  <p v-if="refused" class="mt-1 text-xs text-ochre">
    This browser does not allow notices for Corvend. Allow them in its own settings for this page.
  </p>
  <p class="mt-1 text-xs text-soft">
    For this browser alone. The tab’s title says it in any case. A notice names the ticket, never a customer.
  </p>
</template>
