<script setup lang="ts">
/** A button that says what happens. One `accent` a screen. */
withDefaults(defineProps<{ look?: 'accent' | 'plain' | 'quiet' | 'danger'; busy?: boolean; disabled?: boolean }>(), {
  look: 'plain',
  busy: false,
  disabled: false,
})
/** A double click is one press: its second click would land on the button that took this one’s place. */
const once = (event: MouseEvent) => {
  if (event.detail < 2) return
  event.stopImmediatePropagation()
  event.preventDefault()
}
const looks = {
  accent: 'bg-ink text-sheet border-ink hover:bg-[#2a3947]',
  plain: 'bg-sheet text-ink border-ink hover:bg-row',
  quiet: 'bg-transparent text-ink border-rule hover:bg-row',
  danger: 'bg-sheet text-madder border-madder hover:bg-madder-pale',
}
</script>

<template>
  <button
    type="button"
    class="rounded-[3px] border px-3.5 py-2 text-sm font-semibold disabled:opacity-55"
    :class="looks[look]"
    :disabled="disabled || busy"
    :aria-busy="busy"
    @click.capture="once"
  >
    <slot />
  </button>
</template>
