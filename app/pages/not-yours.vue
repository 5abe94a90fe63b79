<script setup lang="ts">
const session = useSessionStore()
</script>

<template>
  <div class="page" style="max-width: 640px; padding-top: 60px">
    <h1>This page is not open to you.</h1>
    <p>
      You are signed in as {{ session.account?.name }}. Students see their own file, advisors those of their advisees, the office its own
      pages. If you should see it, ask the registrar's office.
    </p>
    <ActButton weight="full" style="text-decoration: none; display: inline-block" :to="session.home">To my start page</ActButton>
  </div>
</template>
