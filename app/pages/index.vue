<script setup lang="ts">
definePageMeta({ ui: 'light', redirect: '/desk' })
</script>

<template>
  <div />
</template>
