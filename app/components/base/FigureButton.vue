<script setup lang="ts">
import { number } from '../../words/say.ts'

/** A count that opens to what it is made of; a plain number where there is nothing to open. */
withDefaults(defineProps<{ n: number; canOpen?: boolean }>(), { canOpen: true })
defineEmits<{ open: [] }>()
defineOptions({ inheritAttrs: false })
</script>

<template>
  <button v-if="canOpen" type="button" class="figure text-right" v-bind="$attrs" @click="$emit('open')">
    <slot>{{ number(n) }}</slot>
  </button>
  <span v-else
    ><slot>{{ number(n) }}</slot></span
  >
</template>
