<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import AppButton from '../components/base/AppButton.vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { calls } from '#contracts/http/calls.ts'
import { api, sentenceOf } from '../composables/use-api.ts'
import { useSession } from '../stores/session.ts'
import { common } from '../words/common.ts'
import { signInPage as said } from '../words/sign-in.ts'

const [name, pin, sentence, isBusy] = [ref(''), ref(''), ref(''), ref(false)]
const route = useRoute()
const router = useRouter()
const session = useSession()

// an empty shop is set up first
onMounted(async () => {
  if ((await api(calls.isNew).catch(() => ({ isNew: false }))).isNew) await router.replace('/first-start')
})
async function signIn() {
  isBusy.value = true
  sentence.value = ''
  try {
    await session.signIn(name.value, pin.value)
    const then = String(route.query.then ?? '/')
    await router.push(then.startsWith('/') && !then.startsWith('//') ? then : '/')
  } catch (error) {
    sentence.value = sentenceOf(error)
    pin.value = ''
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <main class="grid min-h-screen place-items-center bg-paper p-6">
    <form class="w-80 border-t-4 border-ink bg-panel p-6" @submit.prevent="signIn">
      <img src="/mark.svg" alt="" width="40" height="40" class="mb-4" />
      <h1 class="text-xl">{{ common.corvend }}</h1>
      <p class="mb-4 text-soft">{{ said.lead }}</p>
      <label class="mb-3 block"
        ><span class="mb-1 block font-medium">{{ common.name }}</span
        ><input v-model="name" class="field" autocomplete="username" required autofocus
      /></label>
      <label class="mb-4 block">
        <span class="mb-1 block font-medium">{{ said.pin }}</span>
        <input v-model="pin" class="field" type="password" inputmode="numeric" autocomplete="current-password" required minlength="4" />
      </label>
      <SentenceBox v-if="sentence" tone="bad" class="mb-3">{{ sentence }}</SentenceBox>
      <AppButton look="accent" type="submit" class="w-full" :busy="isBusy">{{ said.signIn }}</AppButton>
    </form>
  </main>
</template>
