<script setup lang="ts">
import { maskedName } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(maskedName)

/** In place of a name that is not shown: a bar, as long as names are. */
defineProps<{ seed: number }>()
</script>

<template>
  <span class="inline-block h-2.5 rounded-sm bg-mask" :style="{ width: `${56 + ((seed * 37) % 70)}px` }"
    ><span class="sr-only">{{ said.hiddenName }}</span></span
  >
</template>
