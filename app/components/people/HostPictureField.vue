<script setup lang="ts">
import { texts } from '~/locales/host'
import type { HostView } from '~~/core/views/host'
import HostPicture from '~/components/HostPicture.vue'
import { problemOf } from '~/composables/problem'
import { useNotice } from '~/stores/notice'

/** The picture, and the ways to set another or take it away. */

const props = defineProps<{ host: HostView }>()
const emit = defineEmits<{ changed: [] }>()
const notice = useNotice()
const fault = ref('')
const sending = ref(false)
const field = useTemplateRef<HTMLInputElement>('field')
const path = computed(() => `/api/desk/hosts/${props.host.id}/picture` as const)

async function change(work: () => Promise<unknown>, done: string): Promise<void> {
  fault.value = ''
  sending.value = true
  try {
    await work()
    notice.show(done)
    emit('changed')
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    sending.value = false
  }
}

async function send(): Promise<void> {
  const file = field.value?.files?.[0]
  if (!file) return
  await change(() => $fetch(path.value, { method: 'PUT', body: file, headers: { 'content-type': file.type || 'application/octet-stream' } }), texts.pictureIsSaved)
  if (field.value) field.value.value = ''
}

const remove = () => change(() => $fetch(path.value, { method: 'DELETE' }), texts.pictureIsRemoved)
</script>

<template>
  <div class="picture-field">
    <HostPicture :name="host.profile.name" :picture="host.picture" :size="88" />
    <template v-if="host.mayChange">
      <input ref="field" class="visually-hidden" type="file" accept="image/jpeg,image/png,image/webp" tabindex="-1" :aria-label="texts.picture" @change="send">
      <p>
        <LinkButton :disabled="sending" @click="field?.click()">{{ host.picture ? texts.changePicture : texts.addPicture }}</LinkButton>
        <LinkButton v-if="host.picture" :disabled="sending" @click="remove">{{ texts.removePicture }}</LinkButton>
      </p>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    </template>
  </div>
</template>

<style scoped>
.picture-field p {
  display: flex;
  gap: 12px;
  font-size: 12.5px;
}

.broken {
  max-width: 220px;
}
</style>
