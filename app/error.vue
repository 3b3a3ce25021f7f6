<script setup lang="ts">
import type { NuxtError } from '#app'

/** A page that is not there, or one that broke: said in the shop’s words, with a way on. */
const props = defineProps<{ error: NuxtError }>()
const isMissing = props.error.statusCode === 404
useHead({ title: isMissing ? 'No such page · Corvend' : 'Corvend' })
const leave = (to: string) => clearError({ redirect: to })
</script>

<template>
  <main class="grid min-h-screen place-items-center bg-paper p-6">
    <div class="w-96 border-t-4 border-ink bg-panel p-6">
      <img src="/mark.svg" alt="" width="40" height="40" class="mb-4" />
      <h1 class="mb-1 text-xl">{{ isMissing ? 'There is no such page' : 'This page broke' }}</h1>
      <p class="mb-4 text-soft">
        {{ isMissing ? 'The address may be mistyped, or the ticket has another number.' : 'Nothing was lost: what runs goes on.' }}
      </p>
      <button type="button" class="rounded-[3px] border border-ink px-3.5 py-2 text-sm font-semibold hover:bg-row" @click="leave('/')">
        To Today
      </button>
    </div>
  </main>
</template>
