<script setup lang="ts">
import type { NoteView } from '#contracts/http/ready.ts'
import { promise } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { courseNotes } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(courseNotes)

/** What interrupted the ticket, and what a colleague should know. */
defineProps<{ notes: readonly NoteView[]; zone: string }>()
const when = (at: string, zone: string) => promise(at, zone, Date.now())
</script>

<template>
  <ul class="mt-4 border-l-4 border-slate bg-slate-pale px-3 py-2 text-[0.8rem] wrap-anywhere" :aria-label="said.notesOfCourse">
    <li v-for="(note, i) in notes" :key="i">
      <strong>{{ words.notes[note.what] }}</strong><template v-if="note.to">{{ ' ' }}{{ said.to(note.to) }}</template
      ><template v-if="note.phone">{{ said.wasGivenBack(note.phone) }}</template>
      <span class="text-soft">{{ ' ' }}{{ said.by(note.by, when(note.at, zone)) }}</span
      ><template v-if="note.words">. {{ note.words }}</template>
    </li>
  </ul>
</template>
