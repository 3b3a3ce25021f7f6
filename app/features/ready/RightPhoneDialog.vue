<script setup lang="ts">
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { words } from '../../words/words.ts'
import { rightPhoneDialog as said } from '../../words/ready.ts'

/** A phone of another model than was booked, or one that was on another customer’s ticket today: asked about before it is named. */
defineProps<{
  asks: { side: 'old' | 'new'; model: string; port: number; seenToday: string | null; booked: string | null } | null
}>()
defineEmits<{ no: []; yes: [] }>()
const sideOf = (side: 'old' | 'new') => words.sides[side]
</script>

<template>
  <AppDialog :open="asks !== null" :title="said.title" @close="$emit('no')">
    <template v-if="asks">
      <p v-if="asks.booked" class="mb-3">
        {{ said.portHas(asks.port) }} <strong>{{ asks.model }}</strong>{{ said.bookedAsPhoneIs(sideOf(asks.side)) }}
        <strong>{{ asks.booked }}</strong>.
      </p>
      <p v-if="asks.seenToday" class="mb-3">
        {{ said.the }} <strong>{{ asks.model }}</strong> {{ said.inPort(asks.port) }} <strong>{{ asks.seenToday }}</strong>{{
          said.whichWasHandedBack
        }}
      </p>
      <div class="flex flex-wrap gap-2">
        <AppButton look="accent" @click="$emit('no')">{{ said.no }}</AppButton>
        <AppButton look="danger" @click="$emit('yes')">{{ said.yes(asks.model, sideOf(asks.side)) }}</AppButton>
      </div>
    </template>
  </AppDialog>
</template>
