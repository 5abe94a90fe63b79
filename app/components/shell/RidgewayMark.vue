<template>
  <span class="mark"
    ><svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true">
      <path d="M2 20 9 6l4 7 3-4 6 11z" fill="none" stroke="currentColor" stroke-width="2" stroke-linejoin="round" /></svg
    >Ridgeway</span
  >
</template>

<style scoped>
.mark { display: inline-flex; align-items: center; gap: 7px; font-size: 19px; font-weight: 750; }
.mark svg { color: var(--act); }
</style>
