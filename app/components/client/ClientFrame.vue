<script setup lang="ts">
defineProps<{ name: string, home: string }>()
</script>

<template>
  <div class="client">
    <header class="client-head">
      <NuxtLink :to="home" class="client-name">{{ name }}</NuxtLink>
      <slot name="aside" />
    </header>
    <main class="client-main">
      <slot />
    </main>
  </div>
</template>

<style>
.client-head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: baseline;
  gap: 4px 24px;
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  padding: 14px 40px;
  font-size: 0.9rem;
  color: var(--quiet);
}

.client-name {
  font-family: var(--heading);
  font-weight: 700;
  font-size: 1.05rem;
  color: var(--ink);
  text-decoration: none;
}

.client-main {
  max-width: 1280px;
  margin: 0 auto;
  padding: 26px 40px 48px;
}

.client-main h1 {
  font-size: 2rem;
  overflow-wrap: anywhere;
}

@media (max-width: 720px) {
  .client-head {
    padding: 12px 18px;
  }

  .client-main {
    padding: 18px 18px 40px;
  }

  .client-main h1 {
    font-size: 1.65rem;
  }
}
</style>
