<script setup lang="ts">
import type { NuxtError } from '#app'
import { common } from './words/common.ts'
import { errorPage as said } from './words/base.ts'

/** A page that is not there, or one that broke: said in the shop’s words, with a way on. */
const props = defineProps<{ error: NuxtError }>()
const isMissing = props.error.statusCode === 404
useHead({ title: isMissing ? said.noSuchPageCorvend : common.corvend })
const leave = (to: string) => clearError({ redirect: to })
</script>

<template>
  <main class="grid min-h-screen place-items-center bg-paper p-6">
    <div class="w-96 border-t-4 border-ink bg-panel p-6">
      <img src="/mark.svg" alt="" width="40" height="40" class="mb-4" />
      <h1 class="mb-1 text-xl">{{ isMissing ? said.thereIsNoSuch : said.thisPageBroke }}</h1>
      <p class="mb-4 text-soft">
        {{ isMissing ? said.addressMayBeMistyped : said.nothingWasLost }}
      </p>
      <button type="button" class="rounded-[3px] border border-ink px-3.5 py-2 text-sm font-semibold hover:bg-row" @click="leave('/')">
        {{ said.toToday }}
      </button>
    </div>
  </main>
</template>
