<template>
  <main class="alone">
    <RidgewayMark class="mark" />
    <slot />
  </main>
</template>

<style scoped>
/* One form by itself, before there is anything to go to. */
.alone { max-width: 460px; margin: 0 auto; padding: 40px 20px; }
.mark { margin-bottom: 20px; }
.alone :deep(form) { display: grid; gap: 10px; margin-top: 16px; }
.alone :deep(h2) { margin: 10px 0 0; }
</style>
