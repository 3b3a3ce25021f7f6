<script setup lang="ts">
/** A button that says what happens. One `accent` a screen. */
const props = withDefaults(defineProps<{ look?: 'accent' | 'plain' | 'quiet' | 'danger'; busy?: boolean; disabled?: boolean }>(), {
  look: 'plain',
  busy: false,
  disabled: false,
})
/**
 * A double click is one press: its second click would land on the button that took this one’s place. While its act is
 * on its way it is no button, but it keeps the focus.
 */
const once = (event: MouseEvent) => {
  if (event.detail < 2 && !props.busy) return
  event.stopImmediatePropagation()
  event.preventDefault()
}
const looks = {
  accent: 'bg-ink text-sheet border-ink hover:bg-ink-lit',
  plain: 'bg-sheet text-ink border-ink hover:bg-row',
  quiet: 'bg-transparent text-ink border-rule hover:bg-row',
  danger: 'bg-sheet text-madder border-madder hover:bg-madder-pale',
}
</script>

<template>
  <button
    type="button"
    class="text-balance rounded-[3px] border px-3.5 py-2 text-sm font-semibold disabled:opacity-55 aria-disabled:opacity-55"
    :class="looks[look]"
    :data-next="look === 'accent' ? '' : undefined"
    :disabled="disabled"
    :aria-disabled="busy || undefined"
    :aria-busy="busy"
    @click.capture="once"
  >
    <slot />
  </button>
</template>
