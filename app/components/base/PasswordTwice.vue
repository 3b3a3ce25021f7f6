<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import { passwordTwice as said } from '../../words/base.ts'

/** A password typed twice: the model is it once both are the same and long enough, else empty. */
defineProps<{ label: string }>()
const password = defineModel<string>({ required: true })
const mostChars = 200
const leastChars = 8
const typed = reactive({ first: '', second: '' })
const isOther = computed(() => typed.second !== '' && typed.first !== typed.second)
watch(typed, () => {
  const isLong = typed.first.trim() !== '' && typed.first.length >= leastChars
  password.value = isLong && typed.first === typed.second ? typed.first : ''
})
</script>

<template>
  <label class="block"
    ><span class="mb-1 block text-xs text-soft">{{ label }}</span
    ><input v-model="typed.first" class="field" type="password" autocomplete="new-password" :maxlength="mostChars"
  /></label>
  <label class="block"
    ><span class="mb-1 block text-xs text-soft">{{ said.onceMore }}</span
    ><input v-model="typed.second" class="field" type="password" autocomplete="new-password" :maxlength="mostChars"
  /></label>
  <p v-if="isOther" class="text-madder" role="alert">{{ said.notSame }}</p>
</template>
