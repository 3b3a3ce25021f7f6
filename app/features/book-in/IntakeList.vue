<script setup lang="ts">
import { computed, watch } from 'vue'
import { intakeQuestions, judgeIntake, type IntakeAnswers } from '#core/phones/intake.ts'
import { useLive } from '../../composables/use-live.ts'
import SentenceBox from '../../components/base/SentenceBox.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import { words } from '../../words/words.ts'
import { intakeList as said } from '../../words/book-in.ts'

/** Can we take it? Each answer that is not plain go says what to tell the customer. */
const answers = defineModel<IntakeAnswers>({ required: true })
const result = computed(() => judgeIntake(answers.value))
const { say } = useLive()
watch(
  () => words.intakeVerdicts[result.value.verdict]!,
  (line) => say(line),
)
const tones = { go: 'run', limit: 'note', no: 'bad' } as const
/** The plain answer of a question stands first. */
const nothingAgainst = () => (answers.value = Object.fromEntries(intakeQuestions.map((q) => [q.code, q.answers[0]])) as IntakeAnswers)
const answer = (code: string, value: string) => (answers.value = { ...answers.value, [code]: value })
</script>

<template>
  <fieldset>
    <legend class="mb-2 font-head text-[0.95rem] font-semibold">{{ said.canWeTakeIt }}</legend>
    <LinkButton class="mb-2 text-xs" @click="nothingAgainst">{{ said.allAskedNothingStands }}</LinkButton>
    <div class="grid grid-cols-1 gap-x-6 gap-y-1.5 xl:grid-cols-2">
      <fieldset
        v-for="q in intakeQuestions"
        :key="q.code"
        class="flex flex-wrap items-center justify-between gap-2 border-b border-rule/60 pb-1.5"
        :data-question="q.code"
      >
        <legend class="float-left text-[0.8rem]">{{ q.ask }}</legend>
        <span class="flex flex-wrap gap-1">
          <label
            v-for="value in q.answers"
            :key="value"
            class="cursor-pointer border px-2 py-0.5 text-xs has-focus-visible:outline-2"
            :class="answers[q.code] === value ? 'border-ink bg-ink text-sheet' : 'border-rule bg-sheet'"
          >
            <input
              type="radio"
              class="sr-only"
              :name="`intake-${q.code}`"
              :value="value"
              :checked="answers[q.code] === value"
              @change="answer(q.code, value)"
            />{{ words.intake[value] ?? value }}
          </label>
        </span>
      </fieldset>
    </div>
    <div class="mt-2.5 space-y-1.5">
      <p
        class="font-semibold"
        :class="{
          'text-madder': result.verdict === 'no',
          'text-ochre': result.verdict === 'limit',
          'text-verdigris': result.verdict === 'go',
        }"
        data-testid="intake-verdict"
      >
        {{ words.intakeVerdicts[result.verdict]
        }}<span v-if="result.open.length > 0" class="font-normal text-soft">{{ said.notAskedYet(result.open.length) }}</span>
      </p>
      <SentenceBox v-for="b in result.because" :key="b.code" :tone="tones[b.verdict]">{{ b.sentence }}</SentenceBox>
    </div>
  </fieldset>
</template>
