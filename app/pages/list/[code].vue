<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { calls } from '#contracts/http/calls.ts'
import type { InstallPageView } from '#contracts/http/media.ts'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, ApiFailure } from '../../composables/use-api.ts'
import { day, price } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { listPage as said } from '../../words/sheet.ts'

/** What a customer installs by hand, on their own phone: no sign-in, nobody’s name. */
const route = useRoute()
const page = ref<InstallPageView | null>(null)
const sentence = ref('')
onMounted(async () => {
  try {
    page.value = await api(calls.installPage, { params: { code: String(route.params.code) } })
  } catch (error) {
    sentence.value = error instanceof ApiFailure && error.code !== 'NotFound' ? error.sentence : said.gone
  }
})
useHead({ title: said.tabTitle })
</script>

<template>
  <main class="mx-auto max-w-xl px-4 py-6 text-base">
    <SentenceBox v-if="sentence" tone="note">{{ sentence }}</SentenceBox>
    <template v-else-if="page">
      <p class="text-soft">{{ page.shop }}</p>
      <h1 class="mb-1 text-2xl">{{ said.title(page.model) }}</h1>
      <p class="mb-4 text-soft">
        {{ said.lead(day(page.endsAt)) }}
      </p>
      <ul class="border border-rule bg-sheet">
        <li v-for="app in page.apps" :key="`${app.name} ${app.maker}`" class="border-b border-rule last:border-0">
          <component
            :is="app.link ? 'a' : 'div'"
            :href="app.link ?? undefined"
            rel="noreferrer"
            class="flex items-baseline justify-between gap-3 px-3 py-2.5"
          >
            <span
              ><strong :class="{ underline: app.link }">{{ app.name }}</strong
              ><span class="block text-sm text-soft">{{ words.uses[app.use] ?? app.use }}, {{ app.maker }}</span></span
            >
            <span class="shrink-0 text-sm">{{ price(app.priceCents) }}</span>
          </component>
        </li>
      </ul>
    </template>
    <p v-else class="text-soft">{{ said.openingList }}</p>
  </main>
</template>
