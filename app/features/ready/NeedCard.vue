<script setup lang="ts">
import type { z } from 'zod'
import { computed, ref } from 'vue'
import type { needBody, NeedView } from '#contracts/http/ready.ts'
import { waiveReasons } from '#contracts/http/sets.ts'
import { isOpenNeed } from '#core/phones/needs.ts'
import AppButton from '../../components/base/AppButton.vue'
import { words } from '../../words/words.ts'
import StepList from './StepList.vue'
import { needCard as said } from '../../words/ready.ts'

/** One need in full: why, its steps, and what a person may say of it. */
const props = defineProps<{ need: NeedView; side: 'old' | 'new'; busy: string }>()
const emit = defineEmits<{ say: [body: z.input<typeof needBody>] }>()
const isWaiving = ref(false)
const reason = ref<(typeof waiveReasons)[number]>(waiveReasons[0])
const isOpen = computed(() => isOpenNeed(props.need))
const say = (how: 'ticked' | 'waived' | 'open') =>
  emit('say', { side: props.side, code: props.need.code, how, ...(how === 'waived' ? { reason: reason.value } : {}) })
</script>

<template>
  <div :data-need-card="need.code" :data-state="need.state">
    <h3 class="mb-1 font-body font-semibold">
      {{ isOpen ? need.title : need.met
      }}<span v-if="need.weight === 'warn'" class="ml-1.5 text-xs font-normal text-soft">{{ said.recommended }}</span>
    </h3>
    <p v-if="need.why" class="mb-2 text-soft">{{ need.why }}</p>
    <StepList v-if="isOpen" :steps="need.steps" />
    <p v-if="need.state === 'later'" class="mt-2 text-xs text-soft">{{ said.phoneCantSayYet }}</p>
    <p v-else-if="need.state === 'unmet'" class="mt-2 text-xs text-soft">{{ said.itTicksItself }}</p>
    <p v-else-if="need.state === 'waived'" class="text-ochre">
      {{ said.waived(words.waiveReasons[need.reason ?? ''] ?? need.reason ?? '') }}
    </p>
    <div class="mt-3 flex flex-wrap gap-1.5">
      <AppButton v-if="need.state === 'ask'" look="accent" :busy="busy === 'need'" @click="say('ticked')">{{ said.iHaveLooked }}</AppButton>
      <AppButton v-if="isOpen && !isWaiving" look="quiet" @click="isWaiving = true">{{ said.goOnWithoutIt }}</AppButton>
      <AppButton v-if="need.state === 'ticked' || need.state === 'waived'" look="quiet" :busy="busy === 'need'" @click="say('open')">{{
        said.takeThatBack
      }}</AppButton>
    </div>
    <form v-if="isOpen && isWaiving" class="mt-2 border border-rule bg-sheet p-2.5" @submit.prevent="say('waived')">
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.reason }}</span>
        <select v-model="reason" class="field">
          <option v-for="code in waiveReasons" :key="code" :value="code">{{ words.waiveReasons[code] }}</option>
        </select>
      </label>
      <AppButton type="submit" class="mt-2 w-full" :busy="busy === 'need'">{{ said.waive(need.title) }}</AppButton>
    </form>
  </div>
</template>
