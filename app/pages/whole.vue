<script setup lang="ts">
import { computed, onScopeDispose, ref } from 'vue'
import AppButton from '../components/base/AppButton.vue'
import FileButton from '../components/base/FileButton.vue'
import DataTable from '../components/base/DataTable.vue'
import LinkButton from '../components/base/LinkButton.vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import AppShell from '../features/shell/AppShell.vue'
import { common } from '../words/common.ts'
import { bytes, day, number } from '../words/say.ts'
import { wholePage as said } from '../words/take-home.ts'
import { words } from '../words/words.ts'
import type { WholeReport, WholeWish } from '../workers/whole.worker.ts'

/** A file a customer brings back, read in this browser alone. */
const report = ref<WholeReport | null>(null)
const file = ref<File | null>(null)
const password = ref('')
const areShown = ref(false)
const isOver = ref(false)
let worker: Worker | undefined
const stop = () => worker?.terminate()
onScopeDispose(stop)
useHead({ title: said.tabTitle })

function check() {
  if (!file.value) return
  stop()
  report.value = null
  areShown.value = false
  worker = new Worker(new URL('../workers/whole.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = (event: MessageEvent<WholeReport>) => {
    report.value = event.data
  }
  worker.postMessage({ file: file.value, password: password.value } satisfies WholeWish)
}
function take(chosen: File | undefined) {
  if (!chosen) return
  file.value = chosen
  password.value = ''
  check()
}
function cancel() {
  stop()
  report.value = null
  file.value = null
}
const bad = computed(() => (report.value ? report.value.altered.length + report.value.missing.length + report.value.more.length : 0))
const faults = computed(() =>
  report.value
    ? (['altered', 'missing', 'more'] as const)
        .map((code) => ({ code, paths: report.value![code] }))
        .filter(({ paths }) => paths.length > 0)
    : [],
)
const rows = computed(() => Object.entries(report.value?.kinds ?? {}).map(([kind, held]) => ({ kind, ...held })))
const isLocked = computed(() => ['needs-password', 'wrong-password'].includes(report.value?.issue ?? ''))
</script>

<template>
  <AppShell>
    <header class="border-b border-rule bg-panel px-6 py-3.5 max-md:px-3">
      <h1 class="text-xl">{{ said.title }}</h1>
    </header>
    <div class="max-w-3xl space-y-4 px-6 py-5 max-md:px-3">
      <p class="text-soft">{{ said.lead }}</p>
      <div
        class="border border-dashed p-4"
        :class="isOver ? 'border-ink bg-row' : 'border-faint bg-sheet'"
        @dragover.prevent="isOver = true"
        @dragleave="isOver = false"
        @drop.prevent="((isOver = false), take($event.dataTransfer?.files[0]))"
      >
        <p class="mb-1 font-semibold">{{ said.choose }}</p>
        <p class="mb-2 text-xs text-soft">{{ said.drop }}</p>
        <FileButton :label="said.chooseIt" accept=".zip,application/zip" @pick="take($event[0])" />
        <span v-if="file" class="ml-2 text-xs wrap-anywhere">{{ file.name }}</span>
      </div>
      <p v-if="file && report && !report.isDone" role="status" class="flex items-center gap-3">
        {{ said.reading(number(report.done), number(report.total)) }}
        <LinkButton @click="cancel">{{ said.stop }}</LinkButton>
      </p>
      <template v-if="report?.isDone">
        <SentenceBox v-if="report.issue" tone="bad">{{ said.issues[report.issue] }}</SentenceBox>
        <form v-if="isLocked" class="flex max-w-md items-end gap-2" @submit.prevent="check">
          <label class="flex-1"
            ><span class="mb-1 block text-xs text-soft">{{ said.password }}</span
            ><input v-model="password" class="field" type="password" autocomplete="off" maxlength="200"
          /></label>
          <AppButton type="submit">{{ said.check }}</AppButton>
        </form>
        <template v-if="!report.issue">
          <p
            class="border-l-4 py-1 pl-3 text-lg font-semibold"
            :class="bad > 0 ? 'border-madder text-madder' : 'border-verdigris text-verdigris'"
            role="status"
            data-testid="whole"
          >
            {{ bad > 0 ? said.notWhole(number(bad), number(report.total)) : said.whole(number(report.total)) }}
          </p>
          <p v-if="report.made">{{ said.made(report.made.model, day(report.made.at)) }} {{ said.mark(report.mark) }}</p>
          <DataTable
            :label="said.kinds"
            :rows="rows"
            :key-of="(row) => row.kind"
            :columns="[
              { key: 'kind', head: common.kind, names: true },
              { key: 'file', head: said.heads.file },
              { key: 'items', head: said.heads.items, isRight: true },
              { key: 'bytes', head: said.heads.bytes, isRight: true },
            ]"
          >
            <template #kind="{ row }">{{ words.kinds[row.kind] ?? row.kind }}</template>
            <template #file="{ row }">{{ row.file }}</template>
            <template #items="{ row }">{{ number(row.items) }}</template>
            <template #bytes="{ row }">{{ bytes(row.bytes) }}</template>
          </DataTable>
          <section v-for="fault in faults" :key="fault.code" :aria-label="said[fault.code]">
            <h2 class="font-body font-semibold text-madder">{{ said[fault.code] }}: {{ number(fault.paths.length) }}</h2>
            <ul v-if="areShown" class="ml-4 list-disc text-xs">
              <li v-for="path in fault.paths.slice(0, 500)" :key="path">{{ path }}</li>
            </ul>
          </section>
          <p v-if="faults.length > 0 && !areShown" class="text-xs text-soft">
            {{ said.names }} <LinkButton @click="areShown = true">{{ said.showNames }}</LinkButton>
          </p>
        </template>
      </template>
    </div>
  </AppShell>
</template>
