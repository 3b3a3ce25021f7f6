<script setup lang="ts">
import type { SheetView } from '#contracts/http/ticket.ts'
import { price } from '../../words/say.ts'
import { sheetInstall } from '../../words/sheet.ts'
import { useSaid } from '../ticket/side-names.ts'

const said = useSaid(sheetInstall)

/** What is installed and moved by hand, with the code that opens the list. */
defineProps<{ install: SheetView['install']; tied: number }>()
</script>

<template>
  <section
    v-if="(install && install.apps > 0) || tied > 0"
    class="mt-4 flex break-inside-avoid items-start gap-4 print:mt-2"
    data-testid="install-list"
  >
    <!-- eslint-disable vue/no-v-html -- drawn by our own server from a link -->
    <div v-if="install?.qr" class="size-24 shrink-0 print:size-20" role="img" :aria-label="said.codeLabel" v-html="install.qr" />
    <!-- eslint-enable vue/no-v-html -->
    <div>
      <h2 class="mb-1 text-sm">{{ said.appsByHand }}</h2>
      <p v-if="install && install.apps > 0">
        {{ said.byHand(install.apps) }}
        <template v-if="install.link">{{ said.camera(install.link) }}</template>
        <template v-else-if="install.qr">{{ said.namedHere }}</template>
      </p>
      <ul v-if="install?.list?.length" class="my-1 columns-3 gap-4 text-xs print:text-[0.6rem]">
        <li v-for="app in install.list" :key="`${app.name} ${app.maker}`">
          {{ app.name }}, {{ app.maker }}<template v-if="app.priceCents > 0">, {{ price(app.priceCents) }}</template>
        </li>
      </ul>
      <p v-if="tied > 0" class="font-semibold">
        {{ said.tied(tied) }}
      </p>
    </div>
  </section>
</template>
