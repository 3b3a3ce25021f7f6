<script setup lang="ts">
import type { GuideIndexView } from '#contracts/http/ready.ts'
import { words } from '../../words/words.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { modelList as said } from '../../words/guide.ts'

type Model = GuideIndexView['models'][number]
/** Models by name, to be searched; each with its versions. */
defineProps<{ models: readonly Model[]; picked: { model: string; version: string } | null; own: readonly string[] }>()
const wanted = defineModel<string>({ required: true })
defineEmits<{ pick: [model: Model, version: string] }>()
</script>

<template>
  <nav :aria-label="said.models">
    <label
      ><span class="sr-only">{{ said.find }}</span
      ><input v-model="wanted" class="field mb-2" type="search" :placeholder="said.findHint" autocomplete="off"
    /></label>
    <ul class="space-y-1">
      <li
        v-for="m in models"
        :key="m.model"
        class="border border-rule bg-sheet px-2.5 py-1.5"
        :class="{ 'border-ink': picked?.model === m.model }"
      >
        <button type="button" class="w-full text-left" @click="$emit('pick', m, m.versions[0] ?? '')">
          <strong>{{ m.model }}</strong> <span class="text-xs text-soft">{{ words.platforms[m.platform] }}</span>
        </button>
        <span class="flex flex-wrap gap-1">
          <SmallButton
            v-for="v in m.versions"
            :key="v"
            :aria-label="said.version(m.model, v)"
            :pressed="picked?.model === m.model && picked.version === v"
            @click="$emit('pick', m, v)"
            >{{ v }}</SmallButton
          >
        </span>
      </li>
    </ul>
    <p v-if="models.length === 0" class="text-soft">{{ said.noModel }}</p>
    <p v-if="own.length > 0" class="mt-3 text-xs text-soft">{{ said.shopsOwn(own.join(', ')) }}</p>
  </nav>
</template>
