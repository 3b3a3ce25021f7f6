<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { calls } from '#contracts/http/calls.ts'
import type { ActView } from '#contracts/http/course.ts'
import SentenceBox from '../../components/base/SentenceBox.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { api, sentenceOf } from '../../composables/use-api.ts'
import { useEvents } from '../../composables/use-events.ts'
import CourseList from '../../features/course/CourseList.vue'
import CallOffButton from '../../features/ticket/CallOffButton.vue'
import AppShell from '../../features/shell/AppShell.vue'
import { useSession } from '../../stores/session.ts'
import { actGroups } from '../../words/course.ts'
import { number as say } from '../../words/say.ts'
import { common } from '../../words/common.ts'
import { coursePage as said } from '../../words/course.ts'

/** Who did what to a ticket, and what it did by itself; it stays when the data is erased. */
const route = useRoute()
const session = useSession()
const number = computed(() => String(route.params.number))
const acts = ref<readonly ActView[] | null>(null)
const isOpen = ref(false)
const sentence = ref('')
const [group, who] = [ref(''), ref('')]
const zone = computed(() => session.session?.shop.zone ?? 'UTC')
useHead({ title: () => said.tabTitle(number.value) })

async function look() {
  await api(calls.course, { params: { number: number.value } }).then(
    (answer) => ([acts.value, isOpen.value] = [answer.acts, answer.isOpen]),
    (error: unknown) => (sentence.value = sentenceOf(error)),
  )
}
onMounted(look)
useEvents((event) => event.what === 'ticket' && event.ticket === number.value && event.of !== 'progress', look)
const people = computed(() => [...new Set((acts.value ?? []).flatMap(({ by }) => (by ? [by] : [])))].sort())
const shown = computed(() =>
  (acts.value ?? []).filter(
    (act) =>
      (!group.value || actGroups[group.value]!.includes(act.what)) &&
      (!who.value || (who.value === '—' ? act.by === null : act.by === who.value)),
  ),
)
</script>

<template>
  <AppShell>
    <header class="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule bg-panel px-6 py-3.5 max-md:px-3">
      <h1 class="text-xl">
        {{ common.whoDidWhat }} <span class="ml-1 font-body text-sm font-normal text-soft">{{ number }}</span>
      </h1>
      <NuxtLink :to="`/tickets/${number}`" class="underline">{{ common.backToTicket }}</NuxtLink>
      <CallOffButton v-if="isOpen" :number="number" class="ml-auto" @done="look" />
    </header>
    <div class="max-w-4xl px-6 py-4 max-md:px-3">
      <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
      <p v-else-if="!acts" class="text-soft">{{ common.looking }}</p>
      <template v-else>
        <div class="mb-3 flex flex-wrap items-center gap-1.5">
          <SmallButton :pressed="group === ''" @click="group = ''">{{ common.all }}</SmallButton>
          <SmallButton
            v-for="(_, name) in actGroups"
            :key="name"
            :pressed="group === name"
            @click="group = group === name ? '' : String(name)"
            >{{ name }}</SmallButton
          >
          <label class="ml-auto flex items-center gap-2 text-xs text-soft"
            >{{ common.who }}
            <select v-model="who" class="field w-36 text-xs">
              <option value="">{{ said.everybody }}</option>
              <option v-for="name in people" :key="name">{{ name }}</option>
              <option value="—">{{ said.byItself }}</option>
            </select>
          </label>
        </div>
        <CourseList v-if="shown.length > 0" :acts="shown" :zone="zone" />
        <p v-else class="border border-rule bg-sheet p-6 text-soft">{{ said.nothingOfThat }}</p>
        <p class="mt-2 text-xs text-soft">
          {{ said.lines(say(shown.length), say(acts.length)) }}
        </p>
      </template>
    </div>
  </AppShell>
</template>
