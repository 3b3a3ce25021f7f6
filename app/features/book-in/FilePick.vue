<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import FileButton from '../../components/base/FileButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import NotTakenList from '../../components/base/NotTakenList.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { filePick as said } from '../../words/book-in.ts'
import { bytes, number } from '../../words/say.ts'
import { chosenOf, droppedFiles } from './dropped.ts'
import { fileHolds, useFile } from './use-file.ts'
import type { PhoneChoice } from './phone-choice.ts'

/** Files in place of the old phone: any number, a folder, a ZIP. */
const choice = defineModel<PhoneChoice | null>({ required: true })
const { sentence, isReading, preview, progress, view, hasBrokenOff, remember, take, unlock } = useFile((files) => (choice.value = files))
const isOver = ref(false)
const password = ref('')
onMounted(remember)
const isHere = computed(() => choice.value?.place === 'file')
const percent = computed(() => {
  const { gotBytes, sizeBytes } = progress.value ?? { gotBytes: 0, sizeBytes: 0 }
  return sizeBytes === 0 ? 0 : Math.floor((100 * gotBytes) / sizeBytes)
})
async function drop(data: DataTransfer | null) {
  isOver.value = false
  await take(await droppedFiles(data))
}
defineExpose({ drop })
</script>

<template>
  <div
    class="mt-3 border border-dashed p-2.5"
    :class="isOver || isHere ? 'border-ink bg-row' : 'border-faint'"
    @dragover.prevent="isOver = true"
    @dragleave="isOver = false"
    @drop.prevent.stop="drop($event.dataTransfer)"
  >
    <p class="text-xs text-soft">{{ said.orFiles }}</p>
    <div class="mt-1.5 flex flex-wrap gap-2">
      <FileButton :label="said.files" is-many @pick="take(chosenOf($event))" />
      <FileButton :label="said.folder" is-folder @pick="take(chosenOf($event))" />
    </div>
    <p v-if="hasBrokenOff && !isReading" class="mt-1.5 text-xs text-ochre">{{ said.brokeOff }}</p>
    <div v-if="isReading" class="mt-1.5 text-xs" data-testid="file-preview">
      <strong>{{ said.preview }}</strong>{{ ' ' }}
      <template v-if="preview"
        >{{ fileHolds(preview.items)
        }}<template v-if="preview.unreadable > 0">{{ said.ofThemUnreadable(number(preview.unreadable)) }}</template
        >{{ preview.isDone ? '.' : said.after(bytes(preview.readBytes))
        }}<template v-if="preview.isLocked">{{ ' ' }}{{ said.isLocked }}</template></template
      ><template v-else>{{ said.looking }}</template>
      <template v-if="progress">
        <progress
          class="mt-1 block h-1.5 w-full accent-ink"
          :value="progress.gotBytes"
          :max="Math.max(1, progress.sizeBytes)"
          :aria-label="said.takingIn"
        />
        <span role="status">{{ percent < 100 ? said.taken(bytes(progress.gotBytes), bytes(progress.sizeBytes)) : said.sorting }}</span>
      </template>
    </div>
    <form v-if="view?.state === 'locked' && !isReading" class="mt-2 flex items-end gap-2" @submit.prevent="unlock(password)">
      <label class="flex-1"
        ><span class="mb-1 block text-xs text-soft">{{ view.problem === 'ZipWrongPassword' ? said.wrongPassword : said.password }}</span
        ><input v-model="password" class="field" type="password" autocomplete="off" maxlength="200"
      /></label>
      <SmallButton type="submit" :disabled="!password">{{ said.unlock }}</SmallButton>
    </form>
    <template v-if="!isReading">
      <p v-if="isHere" class="mt-1.5 text-xs">
        <strong>{{ said.inFile(fileHolds(choice!.held ?? {})) }}</strong>
      </p>
      <NotTakenList v-if="view" class="mt-1" :total="view.othersInAll" :rows="view.others" />
    </template>
    <SentenceBox v-if="sentence" tone="bad" class="mt-2">{{ sentence }}</SentenceBox>
  </div>
</template>
