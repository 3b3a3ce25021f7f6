<script setup lang="ts">
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'

/** A phone of another model than was booked, or one that was on another customer’s ticket today: asked about before it is named. */
defineProps<{
  asks: { side: 'old' | 'new'; model: string; port: number; seenToday: string | null; booked: string | null } | null
}>()
defineEmits<{ no: []; yes: [] }>()
const sideOf = (side: 'old' | 'new') => (side === 'old' ? 'OLD' : 'NEW')
</script>

<template>
  <AppDialog :open="asks !== null" title="Is it the right phone?" @close="$emit('no')">
    <template v-if="asks">
      <p v-if="asks.booked" class="mb-3">
        Port {{ asks.port }} has a <strong>{{ asks.model }}</strong>. Booked as the {{ sideOf(asks.side) }} phone is a
        <strong>{{ asks.booked }}</strong>.
      </p>
      <p v-if="asks.seenToday" class="mb-3">
        The <strong>{{ asks.model }}</strong> in port {{ asks.port }} was on another ticket today, <strong>{{ asks.seenToday }}</strong>,
        which was handed back.
      </p>
      <div class="flex flex-wrap gap-2">
        <AppButton look="accent" @click="$emit('no')">No: choose another phone</AppButton>
        <AppButton look="danger" @click="$emit('yes')">Yes: the {{ asks.model }} is the {{ sideOf(asks.side) }} phone</AppButton>
      </div>
    </template>
  </AppDialog>
</template>
